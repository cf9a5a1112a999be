"""Design tokens in and out, in the Design Tokens Community Group's format."""
