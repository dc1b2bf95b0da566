"""What a newcomer asks: help on every screen, the words of the trade, and a tour of a class."""
