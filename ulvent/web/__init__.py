"""The web application: routes, the live channel, and the built front end."""
