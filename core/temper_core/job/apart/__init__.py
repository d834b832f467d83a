"""Records that were written apart, on a tablet without a network and at the depot, and are put together again."""
