"""Judgements: each carries its reasons as data (code and one sentence), so screen, sheet and API say the same."""
