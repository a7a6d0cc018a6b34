"""HTTP: routers and schemas. No SQL, no formulas."""
