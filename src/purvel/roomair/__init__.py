"""Room air: what is thrown off, what is caught, how long the rest hangs.

Pure functions; concentrations in mg/m3.
"""
