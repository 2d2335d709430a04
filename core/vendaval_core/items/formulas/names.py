"""Names a formula may use beside its letters: apart, so that the server need not load sympy."""

FUNCTIONS = ("sqrt", "sin", "cos", "tan")
