"""Open formats: `out` and `read` hold their records, one a module; the rest is what they use."""
