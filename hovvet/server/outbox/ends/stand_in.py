"""The stand-in that ships: made-up outlets, which keep what they are sent."""

from collections.abc import Sequence
from pathlib import Path

from hovvet.core.outbox.fitting import Outgoing
from hovvet.server.accounts.models import Workspace
from hovvet.server.outbox.ends.base import ENDS, Account, ComeAgain, Receipt, Refused
from hovvet.server.outside.models import OutsideAccount
from hovvet.server.outside.posting import NotNow, Refusal, found, limits_of, take


class StandIn:
    """See PostingEnd."""

    name = "Stand-in"

    def accounts(self, workspace: Workspace) -> Sequence[Account]:
        """See PostingEnd."""
        rows = OutsideAccount.objects.filter(workspace=workspace).select_related("workspace")
        return [Account(str(row.pk), row.name, row.sort, limits_of(row)) for row in rows]

    def send(self, account: str, key: str, post: Outgoing, film: Path, cover: bytes | None) -> Receipt:
        """See PostingEnd."""
        try:
            return Receipt(*take(_account(account), key, post, film, cover))
        except Refusal as error:
            raise Refused(str(error)) from None
        except NotNow as error:
            raise ComeAgain(error.seconds) from None

    def find(self, account: str, key: str) -> Receipt | None:
        """See PostingEnd."""
        taken = found(_account(account), key)
        return Receipt(*taken) if taken else None


def _account(key: str) -> OutsideAccount:
    row = OutsideAccount.objects.select_related("workspace").filter(pk=key).first()
    if row is None:
        raise Refused("There is no such account any more.")
    return row


ENDS["stand-in"] = StandIn()
