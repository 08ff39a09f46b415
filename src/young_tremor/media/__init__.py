"""Files of picture and sound in and out, one module a job."""
