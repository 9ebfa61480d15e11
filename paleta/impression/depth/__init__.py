"""What stands in front of what, told from borders and junctions."""
