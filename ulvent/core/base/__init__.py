"""What all rooms stand on: typed arrays, tolerances, errors, figures, registers."""
