"""What the card shows while a drawing tool is at work: what it will make next."""

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from balken.model.buildups import display_name, thickness
from balken.model.lookup import by_id, listed
from balken.model.records import Hang
from balken.panel.card_parts import Card, Entry, Fact, Part
from balken.session.session import Edit, Session
from balken.session.tool_settings import OpeningSettings, Settings, WallSettings
from balken.units import format_inches, format_length, parse_length

Refresh = Callable[[], None]


def _same(project: Any) -> Any:
    return project


def _setter(put: Callable[[str], None], refresh: Refresh) -> Callable[[str], Edit]:
    def commit(typed: str) -> Edit:
        put(typed)
        refresh()
        return _same

    return commit


def wall_tool_card(session: Session, settings: Settings, refresh: Refresh) -> Card:
    """Return the form of the next walls."""
    p, s = session.project, settings.wall
    foot, head = s.heights(p, session.storey)

    def take(**changes: Any) -> None:
        settings.wall = replace(settings.wall, **changes)

    levels = [(v.id, f"{v.name}  {format_length(v.height, p.units)}") for v in listed(p.levels)]
    buildup = by_id(p.buildups).get(s.buildup)
    parts: list[Part] = [
        Entry(
            "Build-up",
            s.buildup,
            _setter(lambda v: take(buildup=v), refresh),
            [(b.id, display_name(b, p.units)) for b in p.buildups],
        ),
        Fact("Thickness", format_inches(thickness(buildup), p.units) if buildup else ""),
        Entry(
            "Set-out line",
            s.set_out,
            _setter(lambda v: take(set_out=v), refresh),
            [(n, n) for n in ("outside", "core outside", "centre", "core inside", "inside")],
        ),
        Entry(
            "Role",
            s.role,
            _setter(lambda v: take(**_role_defaults(v, settings.wall)), refresh),
            [(n, n) for n in ("outside", "bearing", "divides")],
        ),
        Entry("Foot on", foot.level, _setter(lambda v: take(foot=Hang(level=v)), refresh), levels),
        Entry("Head on", head.level, _setter(lambda v: take(head=Hang(level=v)), refresh), levels),
    ]

    def head_offset(typed: str) -> None:
        take(head=Hang(level=head.level, offset=parse_length(typed, p.units)))

    parts.append(Entry("offset", format_length(head.offset, p.units), _setter(head_offset, refresh), tried=False))
    return Card("Draw walls", "What the next walls are made of. The height strip shows them before the click.", parts)


def _role_defaults(role: str, now: WallSettings) -> dict[str, Any]:
    """Inside walls take an inside build-up on their centre line; outside walls the other way round."""
    changes: dict[str, Any] = {"role": role}
    if role == "outside" and now.buildup.startswith("inside"):
        changes |= {"buildup": "framed-2x6", "set_out": "core outside"}
    elif role != "outside" and now.buildup.startswith("framed"):
        changes |= {"buildup": "inside-2x6" if role == "bearing" else "inside-2x4", "set_out": "centre"}
    return changes


def opening_card(session: Session, settings: Settings, refresh: Refresh) -> Card:
    """Return the form of the next opening."""
    p, s = session.project, settings.opening

    def take(**changes: Any) -> None:
        settings.opening = replace(settings.opening, **changes)

    def kind(value: str) -> None:
        foot = 304.8
        sizes = {
            "window": OpeningSettings("window", 4.0 * foot, 4.0 * foot, 3.0 * foot),
            "door": OpeningSettings("door", 3.0 * foot, 6.75 * foot, 0.0),
            "plain": OpeningSettings("plain", 5.0 * foot, 7.0 * foot, 0.0),
        }
        settings.opening = sizes[value]

    def sized(label: str, name: str) -> Entry:
        def put(typed: str) -> None:
            take(**{name: parse_length(typed, p.units)})

        return Entry(label, format_length(getattr(s, name), p.units), _setter(put, refresh), tried=False)

    parts: list[Part] = [
        Entry("Kind", s.kind, _setter(kind, refresh), [(k, k) for k in ("window", "door", "plain")]),
        sized("Width", "width"),
        sized("Height", "height"),
    ]
    if s.kind != "door":
        parts.append(sized("Sill above foot", "sill"))
    return Card("Place opening", "Cut through all layers of the wall pointed at.", parts)
