"""Money: balances over the months, what can be done with what is bought, orders of buying."""
