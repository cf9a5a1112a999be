"""The benches: where one component or one screen is worked on."""
