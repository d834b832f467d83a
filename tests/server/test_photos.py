"""Photos: what is taken, what is refused, what is kept of them, and who may see them."""

import hashlib
import struct
import uuid
import zlib
from io import BytesIO

import pillow_heif
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from jobs.models import Entry, Photo
from jobs.pictures import MOST_BYTES, path_of
from tests.server.conftest import Api


def a_photo(form="JPEG", size=(64, 48), colour=(180, 90, 30), **more):
    """A picture in one colour."""
    out = BytesIO()
    Image.new("RGB", size, colour).save(out, form, **more)
    return out.getvalue()


def heic():
    """As a telephone takes it."""
    out = BytesIO()
    pillow_heif.from_pillow(Image.new("RGB", (64, 48), (20, 90, 160))).save(out)
    return out.getvalue()


def with_exif():
    """A JPEG on its side, with a place and a maker in it."""
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by 90 degrees
    exif[0x010F] = "A telephone"
    exif.get_ifd(0x8825)[2] = (60.0, 5.0, 30.0)  # latitude
    return a_photo(exif=exif)


def bomb(side=40_000):
    """A PNG that says it is enormous; a few hundred bytes."""
    header = struct.pack(">IIBBBBB", side, side, 8, 0, 0, 0, 0)

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = zlib.compress(b"\0" * 1000)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def upload(api, loop, entry, data, name="jar.jpg", declared="image/jpeg", pk=None):
    """Send a file for an entry."""
    form = {
        "id": str(pk or uuid.uuid4()),
        "entry_id": str(entry.id if entry else uuid.uuid4()),
        "file": SimpleUploadedFile(name, data, declared),
    }
    return api.client.post(f"/api/loops/{loop.id}/photos", form, HTTP_X_CSRFTOKEN=api.token)


@pytest.fixture
def sample(groomer):
    """A sample of the groomer's job."""
    return groomer.entries.filter(kind="sampled").earliest("recorded_at")


@pytest.mark.parametrize("data", [a_photo(), a_photo("PNG"), heic()], ids=["jpeg", "png", "heic"])
def test_jpeg_png_and_heic_are_taken_and_kept_as_jpeg_by_their_hash(data, ines, groomer, sample):
    answer = upload(ines, groomer, sample, data)
    assert answer.status_code == 201
    shown = answer.json()["photos"]
    assert shown == [{"entry_id": str(sample.id), "sha256": Photo.objects.get(loop=groomer).sha256}]
    kept = path_of(shown[0]["sha256"]).read_bytes()
    assert hashlib.sha256(kept).hexdigest() == shown[0]["sha256"]
    assert Image.open(BytesIO(kept)).format == "JPEG"


def test_the_kept_picture_stands_upright_and_says_nothing_of_place_or_maker(ines, groomer, sample):
    upload(ines, groomer, sample, with_exif())
    kept = Image.open(path_of(Photo.objects.get(loop=groomer).sha256))
    assert kept.size == (48, 64)
    assert not dict(kept.getexif())
    assert b"telephone" not in path_of(Photo.objects.get(loop=groomer).sha256).read_bytes()


def test_what_hangs_behind_a_picture_is_not_kept(ines, groomer, sample):
    upload(ines, groomer, sample, a_photo() + b"<script>alert(1)</script>PK\x03\x04")
    assert b"script" not in path_of(Photo.objects.get(loop=groomer).sha256).read_bytes()


HOSTILE = {
    "a page called jpg": (b"<html><script>alert(1)</script></html>", "not_a_photo"),
    "svg": (b'<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>', "not_a_photo"),
    "gif": (a_photo("GIF"), "not_a_photo"),
    "tiff": (a_photo("TIFF"), "not_a_photo"),
    "pdf": (b"%PDF-1.7\n1 0 obj", "not_a_photo"),
    "program": (b"\x7fELF\x02\x01\x01" + b"\0" * 400, "not_a_photo"),
    "half a jpeg": (a_photo(size=(800, 800))[:900], "not_a_photo"),
    "nothing": (b"", "not_a_photo"),
    "decompression bomb": (bomb(), "not_a_photo"),
    "too many pixels": (bomb(9000), "too_many_pixels"),
    "over 8 MB": (a_photo() + b"\0" * MOST_BYTES, "too_large"),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_anything_else_is_refused_whatever_it_calls_itself(name, ines, groomer, sample):
    data, code = HOSTILE[name]
    answer = upload(ines, groomer, sample, data)
    assert answer.status_code == 400
    assert (answer.json()["field"], answer.json()["code"]) == ("file", code)
    assert not Photo.objects.filter(loop=groomer).exists()
    assert not Entry.objects.filter(loop=groomer, kind="photo_added").exists()


def test_a_file_name_is_never_a_path(ines, groomer, sample):
    assert upload(ines, groomer, sample, a_photo(), name="../../../etc/passwd.jpg").status_code == 201
    assert path_of(Photo.objects.get(loop=groomer).sha256).is_file()


def test_sent_twice_it_is_added_once(ines, groomer, sample):
    pk = uuid.uuid4()
    assert [upload(ines, groomer, sample, a_photo(), pk=pk).status_code for _ in range(2)] == [201, 201]
    assert Photo.objects.filter(loop=groomer).count() == 1


def test_it_belongs_to_an_entry_of_this_loop(ines, groomer, sled):
    elsewhere = Entry.objects.exclude(loop=groomer).first()
    answer = upload(ines, groomer, elsewhere, a_photo())
    assert (answer.status_code, answer.json()["code"]) == (409, "not_standing")
    form = {"id": str(uuid.uuid4()), "entry_id": "no", "file": SimpleUploadedFile("a.jpg", a_photo())}
    answer = ines.client.post(f"/api/loops/{groomer.id}/photos", form, HTTP_X_CSRFTOKEN=ines.token)
    assert answer.json()["field"] == "entry_id"
    del form["file"]
    answer = ines.client.post(f"/api/loops/{groomer.id}/photos", form, HTTP_X_CSRFTOKEN=ines.token)
    assert answer.json() == {"field": "file", "code": "required", "message": "The photo is missing: pick one."}


def test_it_is_served_to_its_own_depot_only(ines, groomer, sample, elsewhere, nobody):
    upload(ines, groomer, sample, a_photo())
    address = f"/api/photos/{Photo.objects.get(loop=groomer).sha256}"
    answer = ines.get(address)
    assert answer.status_code == 200
    assert answer["Content-Type"] == "image/jpeg"
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["Cache-Control"] == "no-store"  # the next one at a shared tablet does not find it
    assert Image.open(BytesIO(b"".join(answer.streaming_content))).format == "JPEG"
    from people.models import Person

    assert Api(Person.objects.get(username="else")).get(address).status_code == 404
    assert nobody.get(address).status_code == 401
    assert ines.get("/api/photos/../../secret").status_code == 404


def test_a_photo_of_an_entry_taken_back_is_no_longer_shown(maud, ines, groomer, sample):
    assert upload(ines, groomer, sample, a_photo()).json()["photos"]
    photo = Entry.objects.get(loop=groomer, kind="photo_added")
    assert maud.record(groomer, "voided", {"entry_id": str(photo.id)}).status_code == 201
    assert ines.get(f"/api/loops/{groomer.id}").json()["photos"] == []


def test_a_photo_never_makes_another_persons_entry_stale(ines, tomo, groomer, sample):
    seen = ines.get(f"/api/loops/{groomer.id}").json()["state"]["last_entry_id"]
    assert upload(tomo, groomer, sample, a_photo()).status_code == 201
    answer = ines.record(groomer, "planned", {"product_id": 1, "coldest_c": -38, "margin_k": 5}, seen=seen)
    assert answer.status_code == 201
