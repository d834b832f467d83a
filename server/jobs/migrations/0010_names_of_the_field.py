"""Stages, job types and kinds of entry get the names of the field; what was signed is renamed when it is read."""

from django.db import migrations, models

KINDS = {
    "told": "contents_reported",
    "swept": "vessels_rinsed",
    "routed": "job_type_chosen",
    "corrected": "strength_adjusted",
}
JOB_TYPES = {"correct": "adjust_strength", "renew": "refill", "change_out": "change_type"}
STAGES = {"know": "identify", "test": "inspect", "prove": "verify"}


def facts_as_now(kind, facts):
    """The facts of an entry, of an old kind or a new one, by today's names."""
    if kind in ("job_opened", "routed", "job_type_chosen") and "route" in facts:
        facts = {"job_type" if key == "route" else key: value for key, value in facts.items()}
        for key in ("job_type", "advised"):
            if key in facts:
                facts[key] = JOB_TYPES.get(facts[key], facts[key])
    return facts


def snapshot_as_now(kept):
    """What a job handed on, by today's names."""
    if kept and "route" in kept:
        kept = {"job_type" if key == "route" else key: value for key, value in kept.items()}
        kept["job_type"] = JOB_TYPES.get(kept["job_type"], kept["job_type"])
    return kept


def rename(apps, schema_editor):
    Entry, Draft, JobLoop = (apps.get_model("jobs", name) for name in ("Entry", "Draft", "JobLoop"))
    for row in Entry.objects.filter(kind__in=["job_opened", "routed"]).iterator():
        # what was sent under its id is compared by its facts from here on: its hash is of the old names
        Entry.objects.filter(pk=row.pk).update(facts=facts_as_now(row.kind, row.facts), sent="")
    for old, new in KINDS.items():
        Entry.objects.filter(kind=old).update(kind=new, sent="")
    for row in Draft.objects.filter(stage__in=list(STAGES)):
        Draft.objects.filter(pk=row.pk).update(stage=STAGES[row.stage])
    for row in JobLoop.objects.exclude(carried=None).iterator():
        JobLoop.objects.filter(pk=row.pk).update(carried=snapshot_as_now(row.carried))


class Migration(migrations.Migration):
    dependencies = [("jobs", "0009_numbered_entries")]
    operations = [
        migrations.AlterField("draft", "stage", models.CharField(max_length=24)),
        migrations.RunPython(rename, migrations.RunPython.noop),
    ]
