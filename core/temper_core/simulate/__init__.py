"""True worlds: machines whose truth is known, that answer what each act yields. The oracle of tests, and of practice."""
