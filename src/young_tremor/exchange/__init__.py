"""Into and out of others' work: gyroscope logs, cameras, timelines."""
