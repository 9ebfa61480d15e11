"""Embossing powders by the colour of the melted line. One module each; their colours are from memory."""
