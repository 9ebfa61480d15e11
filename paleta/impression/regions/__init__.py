"""From an impression to its regions: ink told from paper, cells found, parted, joined and edited."""
