"""How many actions each piece of the job takes, counted at the window itself."""
