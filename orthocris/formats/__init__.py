"""Open formats: bytes in, bytes out."""
