"""The board: a row of a loop, the band it is in, and what it says is inside."""
