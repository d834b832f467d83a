"""The API's schema of entries is made from the core's kinds: one that nobody has made yet appears in it too."""

from uuid import uuid4

import pytest
from pydantic import TypeAdapter, ValidationError

from jobs.entry_schemas import any_entry
from temper_core.job.kinds import REGISTRY
from tests.core.test_registry import SCRATCH


@pytest.fixture(scope="module")
def adapter():
    """Of the union with the made-up kind."""
    return TypeAdapter(any_entry(SCRATCH))


def test_a_new_kind_appears_in_the_schema(adapter):
    schema = adapter.json_schema()
    assert schema["discriminator"]["mapping"]["magnet_looked"] == "#/$defs/MagnetLookedIn"
    facts = schema["$defs"]["MagnetLookedFacts"]
    assert facts["properties"]["grams"]["type"] == "number"
    assert facts["required"] == ["grams"]
    assert facts["description"] == "What hangs at the drain's magnet [g]."


def test_an_entry_of_a_new_kind_is_read_by_it(adapter):
    given = {"id": str(uuid4()), "kind": "magnet_looked", "facts": {"grams": 3.5}}
    assert adapter.validate_python(given).facts.grams == 3.5
    for facts in ({"grams": "3.5"}, {"grams": 3.5, "kg": 1}, {}):
        with pytest.raises(ValidationError):
            adapter.validate_python(given | {"facts": facts})


def test_what_a_client_does_not_record_is_not_taken(adapter):
    for kind in ("job_opened", "photo_added", "listed"):
        assert kind in REGISTRY
        with pytest.raises(ValidationError, match="expected tags"):
            adapter.validate_python({"id": str(uuid4()), "kind": kind, "facts": {}})


def test_rows_of_the_depots_lists_are_named_by_their_number(adapter):
    defs = adapter.json_schema()["$defs"]
    assert "product_id" in defs["PouredFacts"]["required"]
    assert "instrument_id" not in defs["ReadFacts"]["required"]
    assert not {"product", "instrument", "agent", "solids_mg_l"} & {
        name for key in ("PouredFacts", "ReadFacts", "RoundFilledFacts") for name in defs[key]["properties"]
    }
