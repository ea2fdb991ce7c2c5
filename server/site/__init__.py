"""Settings, routes and the web page of the application."""
