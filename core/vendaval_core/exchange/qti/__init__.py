"""Questions, tests and packages in QTI: written as 3.0, read from 3.0 and 2.x."""
