"""Devices behind one small protocol each. What ships is simulated; a real one takes its place by answering the same calls."""
