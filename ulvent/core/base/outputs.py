"""What becomes of a line: it is drawn, engraved or cut; or it is in no file."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Text

Output = Literal["draw", "engrave", "cut"]
OutputOrNone = Literal["draw", "engrave", "cut", "none"]
OUTPUTS: dict[Output, tuple[str, str, str]] = {
    "draw": ("drawn", "d", "#1f4e9c"),
    "engrave": ("engraved", "e", "#1b2130"),
    "cut": ("cut", "c", "#b3312c"),
}
"""The words for each, its letter, and its colour in files where no other is chosen, in the order
in which they are made: what is cut out first would no longer lie still."""

Colour = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
Name = Annotated[Text, Field(max_length=80)]
"""What a person calls a guide or a lettering; empty where it goes by what it is."""
