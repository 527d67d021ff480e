"""From kept frames and clips to what a widget paints, and the clock that plays them."""
