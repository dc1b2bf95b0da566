"""The job itself: pure computation, no interface, no clock, no input or output."""
