"""The ledger over HTTP: idempotent, append-only, all or none; bad input named; sign-off kept as it was."""

import uuid

import pytest

from instruments.models import Reading
from jobs.models import Draft, Entry, JobLoop
from jobs.queries import state_of


def bench(answer, status=201):
    """The state an answer carries."""
    assert answer.status_code == status, answer.content
    return answer.json()["state"]


def drain(litres=40.0, **more):
    """Litres out."""
    return {"drained_l": litres, "measured": "weighed"} | more


def walk_to_proof(api, loop, product, glass, value=-46.5):
    """The groomer from the mix to three readings."""
    plan = {"product_id": product.id, "coldest_c": -38, "margin_k": 5}
    bench(api.record(loop, "planned", plan | {"target_freeze_c": -45, "concentrate_l": 18.1, "water_l": 6.7}))
    bench(
        api.record(loop, "poured", {"product_id": product.id, "product_l": 18.1, "water_l": 6.7, "at_mark": True}),
    )
    for _ in range(3):
        facts = {"value": value, "place": "finished", "instrument_id": glass.id, "sample_c": 19, "after_hot_run": True}
        state = bench(api.record(loop, "read", facts))
    return state


@pytest.fixture
def glass(depot):
    """The ethylene refractometer."""
    return depot.instruments.get(name="Glass 3")


def test_the_main_job_from_mix_to_a_signed_proof(ines, groomer, product, glass):
    state = walk_to_proof(ines, groomer, product, glass)
    assert state["proof"]["verdict"] == "proven"
    state = bench(ines.record(groomer, "signed_off", {"proof": "proven"}))
    assert state["signed_at"]
    assert state["stage"] is None
    assert Reading.objects.filter(loop=groomer, place="finished").count() == 3
    ledger = ines.get(f"/api/loops/{groomer.id}/ledger").json()
    assert ledger["signed"][0]["state"]["proof"]["verdict"] == "proven"
    assert ledger["entries"][0]["kind"] == "signed_off"
    assert any(row["loop_id"] == groomer.id for row in ines.get("/api/board").json()["finished"])


def test_the_same_entry_sent_twice_is_stored_once(ines, railcar):
    id_ = uuid.uuid4()
    first = bench(ines.record(railcar, "drained", drain(), id_=id_))
    again = bench(ines.record(railcar, "drained", drain(), id_=id_))
    assert first["inside"] == again["inside"]
    assert Entry.objects.filter(loop=railcar, kind="drained").count() == 1


def test_an_id_in_use_elsewhere_is_refused(ines, railcar, groomer):
    id_ = uuid.uuid4()
    bench(ines.record(railcar, "drained", drain(), id_=id_))
    answer = ines.record(groomer, "drained", drain(1), id_=id_)
    assert answer.status_code == 409
    assert answer.json()["code"] == "id_taken"


def test_opening_the_same_job_twice_opens_it_once(ines, sled):
    body = {"id": str(uuid.uuid4()), "machine_id": sled.machine_id, "loops": [{"loop_id": sled.id, "job_type": "refill"}]}
    assert ines.post("/api/jobs", body).status_code == 201
    assert ines.post("/api/jobs", body).status_code == 201
    assert JobLoop.objects.filter(loop=sled).count() == 1
    other = ines.post("/api/jobs", body | {"id": str(uuid.uuid4())})
    assert other.status_code == 409
    assert other.json()["code"] == "job_open"


def test_entries_sent_together_are_recorded_all_or_none(ines, railcar, product):
    good = {"id": str(uuid.uuid4()), "kind": "read", "facts": {"value": -12, "place": "as_found"}}
    bad = {"id": str(uuid.uuid4()), "kind": "drained", "facts": drain(500)}
    ines.open_up(railcar)
    before = Entry.objects.count()
    answer = ines.post(f"/api/loops/{railcar.id}/entries", {"entries": [good, bad]})
    assert answer.status_code == 400
    assert Entry.objects.count() == before
    assert Reading.objects.filter(loop=railcar).count() == 0


def test_two_tabs_do_not_record_past_each_other(ines, tomo, railcar):
    tomo.open_up(railcar)
    seen = ines.get(f"/api/loops/{railcar.id}").json()["state"]["last_entry_id"]
    bench(tomo.record(railcar, "drained", drain(), seen=seen))
    answer = ines.record(railcar, "drained", drain(), seen=seen)
    assert answer.status_code == 409
    assert answer.json()["code"] == "ledger_moved"
    assert "Tomo Reik drained" in answer.json()["message"]


def test_voiding_is_for_ones_own_and_for_leads(ines, tomo, maud, railcar):
    bench(tomo.record(railcar, "drained", drain()))
    entry = Entry.objects.get(loop=railcar, kind="drained")
    answer = ines.record(railcar, "voided", {"entry_id": str(entry.id)})
    assert answer.status_code == 409
    assert "Tomo Reik recorded that" in answer.json()["message"]
    state = bench(maud.record(railcar, "voided", {"entry_id": str(entry.id)}))
    assert state["drained_l"] is None
    assert Entry.objects.filter(pk=entry.pk).exists()  # struck, not erased


def test_a_voided_reading_is_marked_in_the_table_of_readings(ines, railcar):
    id_ = uuid.uuid4()
    bench(ines.record(railcar, "read", {"value": -12, "place": "as_found"}, id_=id_))
    assert Reading.objects.get(entry_id=id_).freeze_c == -12
    bench(ines.record(railcar, "voided", {"entry_id": str(id_)}))
    assert Reading.objects.get(entry_id=id_).voided


def test_taking_back_the_opening_closes_the_job(ines, railcar):
    opened = Entry.objects.get(loop=railcar, kind="job_opened")
    bench(ines.record(railcar, "voided", {"entry_id": str(opened.id)}))
    assert not JobLoop.objects.filter(loop=railcar, signed_at__isnull=True).exists()


def test_a_signed_job_takes_no_more_entries(ines, groomer, product, glass):
    walk_to_proof(ines, groomer, product, glass)
    bench(ines.record(groomer, "signed_off", {"proof": "proven"}))
    answer = ines.record(groomer, "drained", drain(1))
    assert answer.status_code == 409
    assert answer.json() | {"message": ""} == {"field": "facts.job", "code": "signed_off", "message": ""}
    assert "Start a new job" in answer.json()["message"]


def test_later_edits_never_alter_a_signed_job(ines, groomer, product, glass):
    walk_to_proof(ines, groomer, product, glass)
    bench(ines.record(groomer, "signed_off", {"proof": "proven"}))
    before = JobLoop.objects.get(loop=groomer).result
    product.glycol_mass_percent = 80
    product.save()
    groomer.machine.depot.policy_overrides = {"proof_tolerance_k": 0.01}
    groomer.machine.depot.save()
    assert JobLoop.objects.get(loop=groomer).result == before
    assert before["core_version"]
    assert before["policy"]["proof_tolerance_k"] == 1.0
    assert before["loop"]["capacity_l"] == 32.0


def test_an_entry_keeps_the_product_as_it_was(ines, groomer, product, glass):
    walk_to_proof(ines, groomer, product, glass)
    poured = Entry.objects.get(loop=groomer, kind="poured")
    product.glycol_mass_percent = 80
    product.save()
    poured.refresh_from_db()
    assert poured.facts["product"]["glycol_mass_percent"] == 95.0


def test_a_preview_shows_and_stores_nothing(ines, railcar, product):
    ines.open_up(railcar)
    before = Entry.objects.count()
    body = {"entries": [{"id": str(uuid.uuid4()), "kind": "drained", "facts": drain(41.5)}]}
    answer = ines.post(f"/api/loops/{railcar.id}/preview", body)
    assert answer.status_code == 200
    assert answer.json()["state"]["inside"]["litres"] == pytest.approx(16.5, abs=0.05)
    assert Entry.objects.count() == before


def test_a_preview_refuses_what_recording_would_refuse(ines, railcar):
    ines.open_up(railcar)
    body = {"entries": [{"id": str(uuid.uuid4()), "kind": "drained", "facts": drain(70)}]}
    preview = ines.post(f"/api/loops/{railcar.id}/preview", body)
    recorded = ines.post(f"/api/loops/{railcar.id}/entries", body)
    assert preview.status_code == recorded.status_code == 400
    assert preview.json() == recorded.json()


def test_litres_may_come_with_their_unit(ines, railcar):
    state = bench(ines.record(railcar, "drained", drain({"value": 10, "unit": "us_gal"})))
    assert state["drained_l"] == pytest.approx(37.854, abs=0.001)


BAD = [
    (drain(-1), "facts.drained_l", "out_of_range", "negative"),
    (drain(70), "facts.drained_l", "more_than_inside", "Check the litres, or ask a lead"),
    (drain(1e308), "facts.drained_l", "out_of_range", "allowed"),
    (drain("forty"), "entries.0.facts.drained_l", "float_type", "must be a number"),
    (drain("41,5"), "entries.0.facts.drained_l", "float_type", "must be a number"),
    (drain(None), "facts.drained_l", "required", "one of the two"),
    (drain(True), "entries.0.facts.drained_l", "float_type", "must be a number"),
    (drain({"value": 10, "unit": "gal"}), "entries.0.facts.drained_l", "unknown_unit", "us_gal, imp_gal"),
    (drain({"value": 10, "unit": "bucket"}), "entries.0.facts.drained_l", "unknown_unit", "'bucket' is not known"),
    (drain(5, rinses=2), "entries.0.facts.rinses", "extra_forbidden", "not known here"),
    (drain(5, caught=[{"gross_kg": 9}]), "facts.drained_l", "required", "one of the two"),
    ({"caught": [{"gross_kg": 9, "marks_l": 8, "at_c": 20}]}, "facts.caught.0.gross_kg", "required", "one of the two"),
    ({"caught": [{"gross_kg": 9, "tare_kg": 12}]}, "facts.caught.0.tare_kg", "more_than_gross", "Swap the two"),
    ({"caught": [{"where": "Z", "gross_kg": 9}]}, "facts.caught.0.where", "unknown_place", "A, B"),
    (
        {"caught": [{"where": "heater", "gross_kg": 29}]},
        "facts.caught.0.where",
        "more_than_inside",
        "Check the litres and the vessel",
    ),
    ({"caught": [{"gross_kg": 90}]}, "facts.drained_l", "more_than_inside", "Check the litres, or ask a lead"),
    ({"drained_l": 5, "measured": None}, "facts.measured", "required", "How the litres were measured is missing"),
    ({"caught": [{"marks_l": 8}]}, "facts.caught.0.at_c", "required", "fluid temperature is missing"),
    (drain(5, measured="felt"), "entries.0.facts.measured", "enum", "weighed"),
    (drain(5, mesured="marks"), "entries.0.facts.mesured", "extra_forbidden", "not known here"),
    ({"measured": "marks"}, "facts.drained_l", "required", "one of the two"),
    (drain(5, by_vessel={"sump": 5.0}), "facts.by_vessel.sump", "unknown_vessel", "radiator"),
    (drain(5, by_vessel={"block": 3.0}), "facts.drained_l", "sum_does_not_close", "add up to 3.00 L"),
]


@pytest.mark.parametrize(("facts", "field", "code", "words"), BAD)
def test_bad_litres_say_which_value_what_is_allowed_what_to_do(ines, railcar, facts, field, code, words):
    answer = ines.record(railcar, "drained", facts)
    assert answer.status_code == 400, answer.content
    said = answer.json()
    assert (said["field"], said["code"]) == (field, code)
    assert words in said["message"]
    assert not Entry.objects.filter(loop=railcar, kind="drained").exists()


def test_a_target_past_the_limit_is_refused(ines, groomer, product):
    facts = {
        "product_id": product.id,
        "coldest_c": -38,
        "margin_k": 5,
        "target_freeze_c": -55,
        "concentrate_l": 1,
        "water_l": 1,
    }
    answer = ines.record(groomer, "planned", facts)
    assert answer.status_code == 400
    assert "-50 to 0 °C is allowed" in answer.json()["message"]


def test_a_product_of_another_depot_is_not_there(ines, railcar, elsewhere):
    answer = ines.record(railcar, "planned", {"product_id": 99999, "coldest_c": -25, "margin_k": 5})
    assert answer.status_code == 404


def test_a_reading_on_the_other_glycols_scale_is_converted_and_flagged(ines, groomer, product, glass, depot):
    walk_to_proof(ines, groomer, product, glass)
    other = depot.instruments.get(name="Glass 5")
    facts = {"value": -36, "place": "finished", "instrument_id": other.id, "after_hot_run": True}
    state = bench(ines.record(groomer, "read", facts))
    flags = state["readings"][-1]["answer"]["flags"]
    assert flags[0]["code"] == "other_scale"
    assert "loop holds ethylene glycol" in flags[0]["message"]


@pytest.mark.parametrize(
    ("happened_at", "code"),
    [
        ("2040-01-01T00:00:00Z", "in_the_future"),
        ("2020-01-01T00:00:00Z", "too_early"),
        ("2026-11-24T10:00:00", "no_time_zone"),
    ],
)
def test_times_that_cannot_be(ines, railcar, happened_at, code):
    answer = ines.record(railcar, "read", {"value": -12, "place": "as_found"}, happened_at=happened_at)
    assert answer.status_code == 400
    assert answer.json()["code"] == code


@pytest.mark.parametrize(
    "body",
    [
        {},
        {"entries": []},
        {"entries": [{"kind": "drained"}]},
        {"entries": [{"id": "x", "kind": "stolen", "facts": {}}]},
        {"entries": "all of them"},
    ],
)
def test_a_body_of_another_shape_is_a_400(ines, railcar, body):
    answer = ines.post(f"/api/loops/{railcar.id}/entries", body)
    assert answer.status_code == 400
    assert set(answer.json()) == {"field", "code", "message"}


@pytest.mark.parametrize("raw", ["{", "[]", "NaN", '{"entries": NaN}', "12"])
def test_what_is_no_json_object_is_a_400(ines, railcar, raw):
    answer = ines.client.post(
        f"/api/loops/{railcar.id}/entries", raw, content_type="application/json", HTTP_X_CSRFTOKEN=ines.token
    )
    assert answer.status_code == 400


# ---- drafts -------------------------------------------------------------------------------------------------------


def test_a_draft_is_kept_per_person_and_goes_when_recorded(ines, tomo, railcar):
    path = f"/api/loops/{railcar.id}/drafts/drain"
    assert ines.send("put", path, {"data": {"total": {"text": "41,5", "unit": "l"}}}).status_code == 200
    mine = ines.get(f"/api/loops/{railcar.id}").json()["drafts"]
    assert mine[0]["data"]["total"]["text"] == "41,5"
    assert tomo.get(f"/api/loops/{railcar.id}").json()["drafts"] == []
    bench(ines.record(railcar, "drained", drain()))
    assert not Draft.objects.exists()


def test_a_draft_still_on_its_way_does_not_outlive_its_recording(ines, railcar):
    path = f"/api/loops/{railcar.id}/drafts/drain"
    ines.open_up(railcar)
    seen = ines.get(f"/api/loops/{railcar.id}").json()["state"]["last_entry_id"]
    bench(ines.record(railcar, "drained", drain(), seen=seen))
    late = ines.send("put", path, {"data": {"total": "41,5"}, "seen": seen})
    assert late.status_code == 409
    assert not Draft.objects.exists()


def test_a_hold_of_the_vacuum_leaves_the_litres_that_are_typed_already(ines, groomer, product):
    plan = {"product_id": product.id, "coldest_c": -38, "margin_k": 5, "target_freeze_c": -45}
    bench(ines.record(groomer, "planned", plan | {"concentrate_l": 18.1, "water_l": 6.7}))
    ines.close_up(groomer)
    path = f"/api/loops/{groomer.id}/drafts/fill"
    assert ines.send("put", path, {"data": {"method": "vacuum"}}).status_code == 200
    pulled = {"vacuum_kpa": 72.0, "loop_c": 10.0, "held": {"minutes": 10, "drop_kpa": 1.0}}
    after = ines.record(groomer, "vacuum_pulled", pulled)
    assert after.status_code == 201, after.content
    assert [row["data"] for row in after.json()["drafts"] if row["stage"] == "fill"] == [{"method": "vacuum"}]


def test_a_draft_of_an_unknown_stage_is_refused(ines, railcar):
    answer = ines.send("put", f"/api/loops/{railcar.id}/drafts/polish", {"data": {}})
    assert answer.status_code == 400
    assert "identify, inspect, open, drain" in answer.json()["message"]


# ---- reads --------------------------------------------------------------------------------------------------------


def test_the_board_is_sorted_by_band(ines):
    """Two act now: a passed limit, and rinse water outdoors before a night of frost; then whoever waits for hands."""
    strips = ines.get("/api/board").json()["strips"]
    bands = [strip["band"] for strip in strips]
    assert bands == sorted(bands, key=["act_now", "your_turn", "running", "cooling", "paused"].index)
    urgent = [(strip["machine"]["fleet_number"], strip["wait"]["kind"]) for strip in strips if strip["band"] == "act_now"]
    assert urgent == [("IR-1", "limit"), ("T-22", "paused")]
    waiting = [strip["wait"]["since"] for strip in strips if strip["band"] == "your_turn"]
    assert len(waiting) >= 5
    assert waiting == sorted(waiting)
    assert {strip["machine"]["fleet_number"]: strip["band"] for strip in strips}["G-02"] == "running"


def test_the_board_asks_as_often_for_many_jobs_as_for_few(ines, sled, django_assert_max_num_queries):
    with django_assert_max_num_queries(18):
        many = len(ines.get("/api/board").json()["strips"])
    body = {"id": str(uuid.uuid4()), "machine_id": sled.machine_id, "loops": [{"loop_id": sled.id, "job_type": "refill"}]}
    ines.post("/api/jobs", body)
    with django_assert_max_num_queries(18):
        assert len(ines.get("/api/board").json()["strips"]) == many + 1


def test_machines_say_how_their_last_job_left_them(ines):
    machines = {card["machine"]["fleet_number"]: card for card in ines.get("/api/machines").json()["machines"]}
    shuttle = machines["S-12"]["loops"]
    assert shuttle[0]["last_freeze_c"] == pytest.approx(-36.4, abs=0.5)
    assert not shuttle[0]["open"]
    assert shuttle[1]["last_freeze_c"] is None
    assert machines["G-07"]["loops"][0]["open"]


def test_choices_are_best_first_with_reasons(ines, railcar):
    choices = ines.get(f"/api/loops/{railcar.id}").json()["choices"]
    verdicts = [choice["judged"]["verdict"] for choice in choices]
    assert verdicts == sorted(verdicts, key=["fits", "fits_after_change_out", "emergency_only", "no"].index)
    assert choices[0]["product"]["name"] == "Old Guard S"
    assert all(choice["judged"]["reasons"][0]["sentence"] for choice in choices)


def test_the_demo_shows_a_loop_at_every_stage_it_claims(depot, groomer):
    """One just in, two at their tests, one too warm, three at their flush, four at their mix, one bleeding, one read."""
    policy = depot.policy
    assert state_of(groomer, policy).stage == "mix"
    open_ones = JobLoop.objects.filter(signed_at__isnull=True)
    stages = sorted(state_of(row.loop, policy).stage for row in open_ones)
    assert stages == ["fill", *["flush"] * 3, "identify", *["inspect"] * 2, *["mix"] * 4, "open", "verify"]
    assert JobLoop.objects.filter(signed_at__isnull=False).count() == 10


def test_a_zero_check_is_kept_with_its_time(ines, glass):
    answer = ines.post(f"/api/instruments/{glass.id}/zero", {"zero": 0.2})
    assert answer.json()["zero"] == 0.2
    assert answer.json()["zeroed_at"]
    assert ines.post(f"/api/instruments/{glass.id}/zero", {"zero": 40}).status_code == 400


def test_a_mixture_is_split_into_what_it_holds_by_the_core(ines, groomer, product):
    """0.8 L of a mix of three parts product and one of water: 0.6 L and 0.2 L, by arithmetic."""
    mixture = {"product_id": product.id, "mixture_l": 0.8, "product_share": 0.75, "water": "demineralised"}
    plan = {"product_id": product.id, "coldest_c": -38, "margin_k": 5}
    bench(ines.record(groomer, "planned", plan | {"target_freeze_c": -45, "concentrate_l": 18.1, "water_l": 6.7}))
    assert ines.record(groomer, "poured", mixture).status_code == 201
    facts = Entry.objects.filter(loop=groomer, kind="poured").latest("seq").facts
    assert (facts["product_l"], facts["water_l"]) == pytest.approx((0.6, 0.2))
    for wrong, field in (
        (mixture | {"product_l": 0.6}, "facts.mixture_l"),
        ({key: value for key, value in mixture.items() if key != "product_share"}, "facts.product_share"),
        (mixture | {"product_share": 1.2}, "facts.product_share"),
    ):
        answer = ines.record(groomer, "poured", wrong)
        assert answer.status_code == 400
        assert answer.json()["field"].endswith(field), answer.json()
