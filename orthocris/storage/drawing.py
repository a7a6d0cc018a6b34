"""The tables drawn from the schema itself, so that the drawing is never another."""

from __future__ import annotations

import sqlite3


def tables_drawn(connection: sqlite3.Connection) -> str:
    """Return every table with its columns and what it refers to, as a Mermaid diagram.

    Indented lines are columns; ``PK`` marks keys, ``FK`` what refers to another table, and a
    quoted ``null`` what may be empty.
    """
    names = [
        row["name"]
        for row in connection.execute(
            "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
            " ORDER BY name"
        )
    ]
    lines = ["erDiagram"]
    columns: list[str] = []
    for table in names:
        refers = connection.execute(
            'SELECT "from", "table" FROM pragma_foreign_key_list(:t) ORDER BY seq, id', {"t": table}
        ).fetchall()
        lines += [f"  {row['table']} ||--o{{ {table} : {row['from']}" for row in refers]
        foreign = {row["from"] for row in refers}
        columns.append(f"  {table} {{")
        for row in connection.execute(
            'SELECT name, type, pk, "notnull" FROM pragma_table_info(:t)', {"t": table}
        ):
            keys = [mark for mark, on in (("PK", row["pk"]), ("FK", row["name"] in foreign)) if on]
            empty = "" if row["notnull"] or row["pk"] else ' "null"'
            told = f" {', '.join(keys)}" if keys else ""
            columns.append(f"    {row['type']} {row['name']}{told}{empty}")
        columns.append("  }")
    return "\n".join([*lines, *columns])
