"""Papers that ship: invented, with believable whites. One module each."""
