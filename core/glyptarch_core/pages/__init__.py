"""Web pages: lists, selectors, the text of articles, readers of sites, and how they last."""
