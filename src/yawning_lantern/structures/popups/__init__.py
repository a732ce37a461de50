"""What stands up when a card is opened."""
