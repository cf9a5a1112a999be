"""The desktop application: everything that knows Qt."""
