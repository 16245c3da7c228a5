"""What items refer to: styles, colours, layers."""
