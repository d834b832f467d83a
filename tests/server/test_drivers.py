"""Instruments that read by themselves: the stand-in over its real line, and what the API makes of it."""

import socket
import threading
import uuid

import pytest

from demo.instruments.refractometer import Device, Server
from instruments.drivers import LineDriver
from instruments.models import Instrument
from temper_core.job.validate import Conflict


@pytest.fixture
def line():
    """The stand-in, listening; a driver to it."""
    with Server(0, Device(seed=7)) as server:
        thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.02}, daemon=True)
        thread.start()
        yield LineDriver("127.0.0.1", server.server_address[1])
        server.shutdown()


@pytest.fixture
def counter(db, depot, line):
    """The demo's digital refractometer at the stand-in's address."""
    Instrument.objects.filter(name="Counter 1").update(address=f"127.0.0.1:{line.port}")
    return Instrument.objects.get(name="Counter 1")


def code_of(refused):
    return refused.value.code


def test_it_shows_the_index_of_what_lies_on_it(line):
    """Water 1.3330, 50 % by mass of ethylene glycol 1.3830 at 20 degC (handbook tables, from memory)."""
    assert line.measure("a").value == pytest.approx(1.3330, abs=0.0001)
    line.ask({"do": "put", "glycol_percent": 50, "sample_c": 12})
    read = line.measure("b")
    assert read.value == pytest.approx(1.3830, abs=0.0006)
    assert read.sample_c == 12


def test_noise_and_a_zero_error_show(line):
    line.ask({"do": "put", "noise": 0.0005, "zero_error": 0.002})
    values = [line.measure(str(i)).value for i in range(60)]
    assert len(set(values)) > 5
    assert sum(values) / 60 == pytest.approx(1.3350, abs=0.0003)


def test_asked_again_with_the_same_id_it_gives_the_same_reading(line):
    line.ask({"do": "put", "glycol_percent": 40, "noise": 0.001})
    first = line.measure("a")
    line.ask({"do": "put", "glycol_percent": 0})
    assert line.measure("a") == first
    assert line.measure("b").value == pytest.approx(1.3330, abs=0.0001)


def test_a_dropped_line_loses_nothing(line):
    line.ask({"do": "put", "glycol_percent": 40, "noise": 0.001, "drop": True})
    with pytest.raises(Conflict) as refused:
        line.measure("a")
    assert code_of(refused) == "line_dropped"
    line.ask({"do": "put", "glycol_percent": 0})
    assert line.measure("a").value > 1.36  # what it read before the line dropped, not the water of now


def test_nothing_on_the_prism_is_said_and_can_be_tried_again(line):
    line.ask({"do": "put", "none": True})
    with pytest.raises(Conflict) as refused:
        line.measure("a")
    assert code_of(refused) == "no_sample"
    line.ask({"do": "put"})
    assert line.measure("a").value == pytest.approx(1.3330, abs=0.0001)


def test_where_nobody_listens_it_says_so():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with pytest.raises(Conflict) as refused:
        LineDriver("127.0.0.1", port).measure("a")
    assert code_of(refused) == "not_there"


@pytest.mark.parametrize(
    "said", [b"hello\n", b"[1]\n", b'{"id": "b", "value": 1.4, "sample_c": 20}\n', b'{"id": "a", "value": "x"}\n']
)
def test_an_answer_that_is_no_reading_is_no_reading(said):
    with socket.create_server(("127.0.0.1", 0)) as door:

        def serve():
            line, _ = door.accept()
            with line:
                line.recv(4096)
                line.sendall(said)

        thread = threading.Thread(target=serve, daemon=True)
        thread.start()
        with pytest.raises(Conflict) as refused:
            LineDriver("127.0.0.1", door.getsockname()[1]).measure("a")
        thread.join()
    assert code_of(refused) == "not_understood"


def test_over_the_api_a_dropped_line_is_asked_again_with_the_same_id(ines, counter):
    sample = f"/api/instruments/{counter.id}/sample"
    body = {"id": str(uuid.uuid4())}
    assert ines.send("put", sample, {"glycol_percent": 45, "noise": 0.0005, "drop": True}).status_code == 204
    dropped = ines.post(f"/api/instruments/{counter.id}/take", body)
    assert (dropped.status_code, dropped.json()["code"]) == (409, "line_dropped")
    assert ines.send("put", sample, {}).status_code == 204
    taken = ines.post(f"/api/instruments/{counter.id}/take", body).json()
    assert taken["id"] == body["id"]
    assert taken["value"] > 1.37


def test_in_production_nobody_sets_what_lies_on_it(ines, counter, settings):
    settings.PRODUCTION = True
    assert ines.send("put", f"/api/instruments/{counter.id}/sample", {}).status_code == 404


@pytest.mark.parametrize("address", ["example.org:80", "10.0.0.4:8771", "127.0.0.1", "127.0.0.1:0", "localhost:x"])
def test_a_driver_listens_on_this_machine_only(maud, address):
    body = {"name": "Far", "kind": "digital", "scale": "brix", "address": address}
    answer = maud.post("/api/instruments", body)
    assert (answer.status_code, answer.json()["field"]) == (400, "address")


def test_a_lead_adds_an_instrument_once_and_changes_what_is_engraved(maud, ines):
    body = {"id": str(uuid.uuid4()), "name": "Discs", "kind": "steps", "scale": "freeze_propylene", "steps_c": [-7, -18]}
    first = maud.post("/api/instruments", body)
    assert first.status_code == 201
    assert maud.post("/api/instruments", body).json()["id"] == first.json()["id"]
    seen = first.json()["edited_at"]
    changed = body | {"id": None, "seen": seen, "steps_c": [-7, -18, -29]}
    assert maud.send("put", f"/api/instruments/{first.json()['id']}", changed).json()["steps_c"] == [-7, -18, -29]
    assert maud.send("put", f"/api/instruments/{first.json()['id']}", changed).json()["code"] == "moved"
    taken = maud.post("/api/instruments", body | {"id": str(uuid.uuid4()), "name": "discs"})
    assert (taken.status_code, taken.json()["code"]) == (409, "taken")
    wrong = maud.post("/api/instruments", body | {"id": None, "name": "More", "steps_c": [-18, -7]})
    assert (wrong.status_code, wrong.json()["code"]) == (400, "not_in_order")


def test_another_scale_is_another_instrument_once_something_was_read_on_it(maud):
    glass = Instrument.objects.get(name="Brix glass")
    body = {"name": glass.name, "kind": "optical", "scale": "refractive_index", "seen": glass.edited_at.isoformat()}
    answer = maud.send("put", f"/api/instruments/{glass.id}", body)
    assert (answer.status_code, answer.json()["code"]) == (409, "in_use")
    new = maud.post("/api/instruments", {"name": "New", "kind": "optical", "scale": "brix"}).json()
    body |= {"name": "New", "seen": new["edited_at"]}
    assert maud.send("put", f"/api/instruments/{new['id']}", body).json()["zero"] == pytest.approx(1.333, abs=0.0001)


def test_what_reads_no_strength_reads_none(ines, depot):
    from tests.server.conftest import loop_of

    strips = depot.instruments.get(name="Strips")
    answer = ines.record(loop_of("D-17"), "read", {"value": 8, "place": "finished", "instrument_id": strips.id})
    assert (answer.status_code, answer.json()["code"]) == (400, "no_scale")
    assert ines.post(f"/api/instruments/{strips.id}/zero", {"zero": 0}).json()["code"] == "no_zero"


def test_steps_on_the_bench_are_kept_and_prove_nothing(ines, depot):
    from tests.server.conftest import loop_of

    loop, balls = loop_of("D-17"), depot.instruments.get(name="Five balls")
    before = ines.get(f"/api/loops/{loop.id}").json()["state"]["repeats"]
    facts = {"value": 3, "place": "finished", "instrument_id": balls.id, "after_hot_run": True}
    state = ines.record(loop, "read", facts).json()["state"]
    assert state["repeats"] == before
    assert state["readings"][-1]["steps"]["at_least_c"] == -21
    assert state["readings"][-1]["steps"]["not_to_c"] == -29


@pytest.mark.parametrize(("fleet_number", "place", "between"), [("S-12", "as_found", True), ("G-02", "rinse", False)])
def test_what_cannot_be_read_is_refused_without_a_job_and_in_a_rinse_too(ines, depot, fleet_number, place, between):
    """A spindle that does not compensate, in fluid near freezing; the bench still opens."""
    from tests.server.conftest import loop_of

    loop, spindle = loop_of(fleet_number), depot.instruments.get(name="Spindle")
    facts = {"value": 1.06, "place": place, "instrument_id": spindle.id, "sample_c": -4.0}
    entry = {"id": str(uuid.uuid4()), "kind": "read", "facts": facts}
    answer = ines.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": between})
    assert answer.status_code == 400
    assert answer.json()["field"].endswith("sample_c")
    assert ines.get(f"/api/loops/{loop.id}").status_code == 200


def test_two_instruments_that_contradict_each_other_give_no_verdict_and_nothing_to_correct_by(ines, depot):
    from tests.server.conftest import loop_of

    loop = loop_of("D-17")
    before = ines.get(f"/api/loops/{loop.id}").json()["state"]
    assert (before["proof"]["verdict"], before["correction"]["feasible"]) == ("too_weak", True)
    facts = {"value": 31.0, "place": "finished", "instrument_id": depot.instruments.get(name="Brix glass").id}
    state = ines.record(loop, "read", facts | {"after_hot_run": True}).json()["state"]
    assert state["sameness"]["apart"]
    assert state["proof"]["verdict"] == "read_again"
    assert "apart on one sample" in state["proof"]["said"]["sentence"]
    assert state["correction"] is None
