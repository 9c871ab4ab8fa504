"""How the tests are run: the databases they get, the processes they share, and what each of them costs."""
