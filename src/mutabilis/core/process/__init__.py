"""The one plan of making: vessels, portions, operations and moments, from which every screen, card and file takes its steps."""
