"""The demo world, Quillon Yard, built through the services from a seeded simulation."""
