"""The made-up depot: its data, and the simulated instruments. Everything in it is invented."""

PASSWORD = "snow-and-cable"
