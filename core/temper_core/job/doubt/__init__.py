"""How sure a ledger is: its named uncertain inputs, what they do to every vessel, and what readings say of them."""
