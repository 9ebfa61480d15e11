"""Whatever the API's schema allows, and much that it does not, sent to a real server: `python -m tools.fuzz_api 40`.

Schemathesis makes the requests ("pip install schemathesis"; too large to be among the packages of every test run): so
many for each of the API's operations. It fails where an answer is a server's error or does not match the schema.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

SCHEMA = Path(__file__).parents[1] / "server/schema.yml"
CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"
LEFT_OUT = ("session_sign_out", "account_change_password", "session_sign_in", "account_open", "session_open_demo")
"""What would sign the visitor out in the middle."""


def main(each: int) -> int:
    os.environ.setdefault("PALETA_VAR", tempfile.mkdtemp())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
    import django

    django.setup()
    from django.core.management import call_command

    from tools.bench.load import Person
    from tools.bench.serving import Server

    program = shutil.which("schemathesis") or str(Path(sys.executable).with_name("schemathesis"))
    call_command("migrate", verbosity=0)
    with Server() as server:
        person = Person(server, "fuzz")
        headers = [part for name, value in person.headers.items() for part in ("--header", f"{name}: {value}")]
        left_out = [part for name in LEFT_OUT for part in ("--exclude-operation-id", name)]
        command = [
            program, "run", str(SCHEMA), "--url", server.address, "--checks", CHECKS, "--max-examples", str(each),
            "--phases", "examples,fuzzing", "--seed", "20261202", "--continue-on-failure", *headers, *left_out,
        ]  # fmt: skip
        return subprocess.run(command, check=False).returncode


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 40))
