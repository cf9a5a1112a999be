"""What panels show, as values: rows, cells, formatted values. A panel only draws them."""
