"""The ledger and the job: entries, fold, state, stage and next action, and one folder per stage."""
