"""Drafts and settings: what saves itself."""

import json
from datetime import UTC, datetime

from mutabilis.core.errors import CannotBe
from mutabilis.core.measures.profile import Profile

from .database import Database

LARGEST_DRAFT = 400_000  # characters


class Drafts:
    """Drafts by key; a draft is any JSON value of the front end."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def get(self, key: str) -> object | None:
        """The draft, or None."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM draft WHERE key = :key", {"key": key}).fetchone()
        return None if row is None else json.loads(row["body"])

    def put(self, key: str, body: object) -> None:
        """Keep a draft in place of the one there was. CannotBe where it is too large."""
        text = json.dumps(body, ensure_ascii=False, allow_nan=False)
        if len(text) > LARGEST_DRAFT:
            raise CannotBe("a draft that large is not a batter")
        with self._database.write() as db:
            db.execute(
                "INSERT INTO draft (key, body, updated_at) VALUES (:key, :body, :at)"
                " ON CONFLICT (key) DO UPDATE SET body = excluded.body, updated_at = excluded.updated_at",
                {"key": key, "body": text, "at": datetime.now(UTC).isoformat(timespec="milliseconds")},
            )

    def drop(self, key: str) -> None:
        """Forget a draft; nothing happens where there is none."""
        with self._database.write() as db:
            db.execute("DELETE FROM draft WHERE key = :key", {"key": key})


class Settings:
    """The kitchen's profile; `default` where none was set on screen."""

    def __init__(self, database: Database, default: Profile | None = None) -> None:
        self._database, self._default = database, default or Profile()

    def profile(self) -> Profile:
        """The kitchen profile, the default where none was set."""
        with self._database.read() as db:
            row = db.execute("SELECT value FROM setting WHERE key = 'profile'").fetchone()
        return self._default if row is None else Profile.model_validate_json(row["value"])

    def set_profile(self, profile: Profile) -> None:
        """Keep a profile."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO setting (key, value) VALUES ('profile', :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                {"value": profile.model_dump_json()},
            )
