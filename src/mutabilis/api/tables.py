"""Tables as files: what every one that leaves here has in common."""


def cell(value: object) -> object:
    """A cell that no table program takes for a formula.

    >>> cell("=1+1"), cell("egg"), cell(-3)
    ("'=1+1", 'egg', -3)
    """
    return f"'{value}" if isinstance(value, str) and value[:1] in "=+-@\t\r" else value


def saved(name: str) -> dict[str, str]:
    """The header under which a browser keeps a file."""
    return {"content-disposition": f'attachment; filename="{name}"'}
