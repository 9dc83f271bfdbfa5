"""Workers that make batches: lists, row by row, from the queue in the database."""
