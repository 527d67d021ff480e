"""What one item of the queue of exports writes: from the kept timeline to the file."""
