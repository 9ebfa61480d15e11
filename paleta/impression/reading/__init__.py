"""From a scan, a photo or line art to an impression: read, flattened, laid flat."""
