"""A bounded schemathesis run over the calculators: whatever fits the schema, or just misses it, is answered, never a 500."""

import json
from pathlib import Path

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis import GenerationMode

from tests.server.test_access import QUESTIONS

DOCUMENT = Path(__file__).resolve().parents[2] / "server" / "openapi.yml"
SCHEMA = schemathesis.openapi.from_path(str(DOCUMENT))
ANSWER_FIELDS = {"field", "code", "message"}


@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE], ids=["fits", "misses"])
@pytest.mark.parametrize("name", QUESTIONS)
def test_whatever_is_asked_is_answered(ines, name, mode):
    operation = SCHEMA[f"/api/compute/{name}"]["POST"]
    shape = operation.definition.raw["responses"]["200"]["content"]["application/json"]["schema"]["$ref"].split("/")[-1]
    wanted = set(SCHEMA.raw_schema["components"]["schemas"][shape]["properties"])
    seen = set()

    @settings(max_examples=40, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(case=operation.as_strategy(generation_mode=mode))
    def ask(case):
        try:
            body = json.dumps(case.body)
        except TypeError:  # bytes, or nothing at all: not JSON to begin with
            body = str(case.body)
        answer = ines.post(f"/api/compute/{name}", body)
        assert answer.status_code in (200, 400), answer.content
        seen.add(answer.status_code)
        said = answer.json()
        if answer.status_code == 200:
            assert set(said) == wanted
        else:  # the contract's three, and the figures as data where the message has any with units
            assert set(said) - {"said"} == ANSWER_FIELDS
            assert len(said["message"]) > 10
            assert said.get("said", said | {"sentence": said["message"]})["sentence"] == said["message"]

    ask()
    if mode is GenerationMode.NEGATIVE:
        assert 400 in seen


def test_an_answered_question_fits_the_document(ines):
    """The example of each calculator, against the document itself."""
    for name, body in QUESTIONS.items():
        answer = ines.post(f"/api/compute/{name}", body)
        operation = SCHEMA[f"/api/compute/{name}"]["POST"]
        response = schemathesis.Response(
            answer.status_code,
            {"content-type": ["application/json"]},
            answer.content,
            None,
            0.0,
            True,
            encoding="utf-8",
            message="OK",
            http_version="1.1",
        )
        operation.validate_response(response)
