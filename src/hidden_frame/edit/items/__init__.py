"""Items drawn, changed, spread, tiled; guides."""
