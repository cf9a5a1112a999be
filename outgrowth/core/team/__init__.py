"""Parts that files and people share: merged, compared, published and taken in."""
