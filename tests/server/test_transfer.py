"""Nothing of a depot is forgotten in its archive: every table, every column, each with what it is."""

import io
import zipfile

from django.apps import apps
from transfer.tables import LEFT_OUT, NOT_TAKEN, TABLES

OURS = ("depots", "people", "catalogue", "fleet", "instruments", "jobs", "shelf", "practice")


def test_every_table_is_taken_or_left_out_on_purpose():
    models = {model._meta.label for app in OURS for model in apps.get_app_config(app).get_models()}
    assert {table.model for table in TABLES} | NOT_TAKEN == models


def test_every_column_is_there_and_documented():
    for table in TABLES:
        columns = {field.attname for field in table.of._meta.concrete_fields}
        assert set(table.columns) | LEFT_OUT.get(table.model, set()) == columns, table.name
        assert all(len(said) > 1 for said in table.columns.values()), table.name


def test_tables_come_after_those_they_point_to():
    seen = set()
    for table in TABLES:
        seen.add(table.model)
        for field in table.of._meta.concrete_fields:
            if field.is_relation and field.attname in table.columns:
                assert field.related_model._meta.label in seen, (table.name, field.attname)


def test_a_lead_downloads_it(maud):
    answer = maud.get("/api/archive")
    assert 'filename="temper-depot-' in answer["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as archive:
        assert archive.testzip() is None
        assert "README.txt" in archive.namelist()


def test_of_its_own_depot_alone(maud, elsewhere):
    answer = maud.get("/api/archive")
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as archive:
        text = b"".join(archive.read(name) for name in archive.namelist() if name.endswith(".jsonl"))
    assert b"Elsewhere" not in text
    assert b"X-1" not in text
