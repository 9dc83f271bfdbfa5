"""Batches: lists that workers make."""
