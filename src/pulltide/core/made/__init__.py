"""Parts that are made in the shop: their outlines, what they are made of, and what that carries."""
