"""The machine around the application: log, jobs, priorities, desktop entries and the session bus."""
