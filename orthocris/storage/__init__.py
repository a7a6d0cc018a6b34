"""The only place with SQL: one SQLite file holds everything."""
