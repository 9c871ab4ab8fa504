"""Page readers: how a site's pages become items."""
