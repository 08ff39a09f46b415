"""Footage as the application uses it: facts, open readers, proxies, relinking, thumbnails."""
