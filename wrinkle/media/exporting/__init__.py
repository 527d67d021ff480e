"""What can be written: one module for each way, and the registry that knows them all."""
