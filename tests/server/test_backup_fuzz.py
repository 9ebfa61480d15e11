"""Altered backups by chance: each is refused with a sentence, or all that came can be read and backed up again.

`PALETA_ALTERED=1000 ./test tests.server.test_backup_fuzz` tries as many as are wished.
"""

from __future__ import annotations

import os
from collections import Counter
from pathlib import Path

from server.backup.services import write_backup
from tests.server.test_backup import BackupTestCase
from tools.fuzz_backups import altered, tried

COUNT = int(os.environ.get("PALETA_ALTERED", "25"))


class AlteredBackupTest(BackupTestCase):
    def test_whatever_is_altered_ends_in_a_sentence_or_in_an_account_that_works(self):
        base = b"".join(write_backup(self.ana))
        came: Counter[str] = Counter()
        for words, data in altered(base, COUNT, seed=int(os.environ.get("PALETA_SEED", "20261202"))):
            outcome, wrong = tried(data, Path(self.folder))
            came[outcome] += 1
            self.assertEqual(wrong, [], f"{outcome} after {words}")
        self.assertGreater(came["refused"], COUNT // 4)
        self.assertGreater(came["restored"], 1)

    def test_what_was_not_altered_comes_back_and_is_read(self):
        self.assertEqual(tried(b"".join(write_backup(self.ana)), Path(self.folder)), ("restored", []))
