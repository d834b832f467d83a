"""What a depot may begin with, as data: kinds of machine, coolants and waters, instruments. Each row with its source."""
