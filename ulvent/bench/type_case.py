"""The type case of the running application: shipped faces and those that were added."""

from __future__ import annotations

from collections.abc import Iterator
from copy import copy
from threading import Lock

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Face
from ulvent.formats.fonts.font_file import read_font
from ulvent.shipped_faces import catalogue, shipped_face, shipped_faces
from ulvent.store.added_faces import Faces, NoSuchFaceError

_STAND_IN = "lato-regular"


class TypeCase:
    """Faces by id; each is read once."""

    def __init__(self, added: Faces) -> None:
        self.added = added
        self._read: dict[str, Face] = {}
        self._lock = Lock()

    def named(self, face_id: str) -> Face:
        """The face with this id.

        Where there is none, a face that stands in for it and says so: a piece whose face
        is not here can still be worked on.
        """
        if face_id in catalogue():
            return shipped_face(face_id)
        with self._lock:
            if face_id not in self._read:
                self._read[face_id] = self._added_or_stand_in(face_id)
            return self._read[face_id]

    def known(self, face_id: str) -> Face:
        """The face with this id.

        Raises
        ------
        FaceError
            When there is none.
        """
        face = self.named(face_id)
        if face.stands_for:
            raise FaceError(f"there is no face “{face_id}”")
        return face

    def offered(self) -> Iterator[tuple[str, Face]]:
        """All faces that can be chosen, with their ids."""
        yield from shipped_faces()
        yield from ((stored.id, self.named(stored.id)) for stored in self.added.all())

    def _added_or_stand_in(self, face_id: str) -> Face:
        try:
            stored = self.added.get(face_id)
            return read_font(self.added.data(face_id), stored.name)
        except (NoSuchFaceError, FaceError):
            stand_in = copy(shipped_face(_STAND_IN))
            stand_in.stands_for = face_id
            return stand_in
