"""A parser of command lines whose complaints are sentences like all others."""

from __future__ import annotations

import argparse
import re
from typing import Any, NoReturn

from yawning_lantern.errors import ParameterError, nearest

_CHOICE = re.compile(r"argument (.+?): invalid choice: '(.*)' \(choose from (.*)\)", re.DOTALL)


class SentenceParser(argparse.ArgumentParser):
    """A parser whose complaints are sentences like all others."""

    _deeds: argparse._SubParsersAction[Any] | None = None

    def add_subparsers(self, **options: Any) -> argparse._SubParsersAction[Any]:
        """What can be done, kept to be told where it was left out."""
        self._deeds = super().add_subparsers(**options)
        return self._deeds

    def error(self, message: str) -> NoReturn:
        """Raise ParameterError."""
        help_ = f"`lantern {self.prog.removeprefix('lantern').strip()} --help`".replace("`lantern  ", "`lantern ")
        choice = _CHOICE.match(message)
        if choice is not None:
            known = re.findall(r"'([^']*)'", choice[3])
            where = "" if choice[1] in ("command", "act") else choice[1]
            raise ParameterError(f"“{choice[2]}” cannot stand here.", where, nearest(choice[2], known, "There are"))
        if self._deeds is not None and message.endswith(f" {self._deeds.dest}"):
            raise ParameterError("What to do is missing.", remedy=f"There are {', '.join(self._deeds.choices)}.")
        for pattern, words in (
            (r"unrecognized arguments: (.*)", "“{}” is not understood."),
            (r"argument (.+?): expected .*", "{} needs a value after it."),
            (r"argument (.+?): invalid .*? value: '(.*)'", "“{1}” is no value for {0}."),
            (r"the following arguments are required: (.*)", "Something is missing: {}."),
            (r"argument (.+?): not allowed with argument (.*)", "{0} does not go with {1}."),
            (r"ambiguous option: (.*?) could match (.*)", "“{0}” may mean {1}."),
        ):
            match = re.fullmatch(pattern, message, re.DOTALL)
            if match is not None:
                raise ParameterError(words.format(*match.groups()), remedy=f"See {help_}.")
        raise ParameterError("That is not understood.", remedy=f"See {help_}.")
