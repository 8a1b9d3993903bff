"""``balken export``: the documents of a project."""

from balken.commands.parser import CommandError, Parser


def export_command(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken export", description="Write a project's documents.")
    parser.add_argument("file")
    from balken.exchange.file_kinds import FILE_KINDS, write_with_calculations

    for kind in FILE_KINDS:
        parser.add_argument(f"--{kind.name}", metavar="FILE", help=kind.help or None)
    parser.add_argument(
        "--with-calc", action="store_true", help="with --pdf: the calculation sheets after the drawings"
    )
    options = parser.read(words)
    chosen = [(kind, getattr(options, kind.name)) for kind in FILE_KINDS if getattr(options, kind.name)]
    if not chosen:
        names = ", ".join(f"--{kind.name}" for kind in FILE_KINDS)
        raise CommandError(f"nothing to write; name at least one of {names}.")
    if options.with_calc and not options.pdf:
        raise CommandError("--with-calc goes with --pdf FILE.")
    from balken.derive import derive
    from balken.exchange import project_file

    model = derive(project_file.load(options.file))
    for kind, path in chosen:
        if not kind.any(model):
            raise CommandError(f"{kind.none[0].lower()}{kind.none[1:]}")
        if kind.name == "pdf" and options.with_calc:
            write_with_calculations(model, path)
        else:
            kind.write(model, path, (), lambda done, of: None)
    return 0
