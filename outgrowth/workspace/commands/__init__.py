"""What hands can do, by subject; each command takes the workspace and makes one step."""
