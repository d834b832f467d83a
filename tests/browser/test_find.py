"""Ways round: the menu on every page, the find field by words, keys, scan and camera."""

import pytest
import segno

from tests.browser.conftest import Screen
from tools.browser import chromium

pytestmark = pytest.mark.browser

PLACES = {
    "Board": "",
    "Machines": "machines",
    "Readings": "readings",
    "Instruments": "instruments",
    "Products": "products",
    "Shelf": "shelf",
    "Rules": "rules",
    "Practice": "practice",
    "People": "people",
    "Help": "help",
}


def test_every_place_is_one_press_from_every_other(screen):
    screen.sign_in("maud")
    for name, path in PLACES.items():
        screen.click(".places a", name)
        screen.until(lambda path=path: screen.driver.current_url == f"{screen.url}/{path}", name)
        screen.until(lambda name=name: screen.driver.title == f"{name} · Temper", "the title")
        screen.until(
            lambda name=name: [e.text for e in screen.all(".places a[aria-current=page]")] == [name], "it is marked"
        )
        screen.until(lambda: screen.one(".youkey").is_displayed(), "units and colours")


def test_a_technician_has_no_people_page(screen):
    screen.sign_in("tomo")
    assert [e.text for e in screen.all(".places a")] == [name for name in PLACES if name != "People"]
    screen.open("/people")
    screen.sees("The people cannot be shown", "Ask a lead")


def test_on_a_bench_the_menu_folds_into_one_key(screen):
    screen.sign_in()
    screen.bench("G-07")
    screen.until(lambda: screen.driver.title == "G-07 · Mix · Temper", "machine and stage in the title")
    assert screen.all(".places") == []
    screen.click(".menukey")
    screen.click(".placelist a", "Rules")
    screen.until(lambda: screen.driver.title == "Rules · Temper", "the rules")
    screen.driver.back()
    screen.one(".bench")


def test_on_a_phone_the_places_are_tabs_at_the_foot(screen):
    screen.resize(390, 844)
    screen.sign_in()
    screen.click(".tabbar a", "Due")
    screen.until(lambda: "S-12" in screen.text and "G-07" not in screen.text, "what is due")
    screen.click(".morekey")
    screen.click(".menupanel .placelist a", "Instruments")
    screen.sees("Glass 3")
    screen.click(".tabbar a", "Board")
    screen.one(".bstrip")


def found(screen):
    """Numbers that the find dialog lists."""
    return [e.text for e in screen.all(".findlist .plate")]


def test_the_find_field_opens_by_its_key_and_finds_by_everything(screen):
    screen.sign_in()
    screen.driver.find_element("css selector", "body").send_keys("/")
    screen.type("find-all", "zzz")
    screen.sees("Nothing found")
    for words, numbers in {"g07": ["G-07"], "resurfacer": ["IR-1"], "propylene": ["C-03"], "electronics": ["S-12"]}.items():
        screen.type("find-all", words)
        screen.until(lambda numbers=numbers: found(screen) == numbers, f"{words}: {numbers}")
    screen.type("find-all", "not protected")
    screen.click(".findlist .key", "in Machines")
    screen.until(lambda: screen.value("find") == "not protected", "the words in the list of machines")
    assert "RS-1" in screen.text


def test_the_find_field_by_keyboard_alone(screen):
    screen.sign_in()
    body = screen.driver.find_element("css selector", "body")
    body.send_keys("/")
    screen.type("find-all", "groomer")
    screen.until(lambda: len(found(screen)) == 3, "three groomers")
    focus = screen.driver.switch_to
    focus.active_element.send_keys("\ue015")  # arrow down
    focus.active_element.send_keys("\ue015")
    assert "G-04" in focus.active_element.text
    focus.active_element.send_keys("\ue007")  # enter
    screen.one(".bench")
    screen.sees("G-04")


def test_a_slash_in_a_field_is_a_slash(screen):
    screen.sign_in()
    screen.open("/machines")
    screen.type("find", "a/b")
    screen.sees("No machine by “a/b”")
    assert screen.all(".finddialog") == []


SIDE = 480


def film_of(code, path):
    """A film of one picture: a code on white, as a camera would give it (YUV4MPEG2, grey)."""
    matrix = list(segno.make(code, error="m").matrix_iter(border=6))
    cell = SIDE // len(matrix)
    rows = [bytes(v for bit in row for v in [16 if bit else 235] * cell).ljust(SIDE, b"\xeb") for row in matrix]
    luma = b"".join(row * cell for row in rows).ljust(SIDE * SIDE, b"\xeb")
    frame = b"FRAME\n" + luma + b"\x80" * (SIDE * SIDE // 2)
    path.write_bytes(f"YUV4MPEG2 W{SIDE} H{SIDE} F10:1 Ip A1:1 C420\n".encode() + frame * 3)
    return path


@pytest.fixture
def filming(screen, tmp_path):
    """A second browser, before whose camera the label of W-02 is held."""
    code = screen.url + screen.loop_page("W-02")
    film = film_of(code, tmp_path / "label.y4m")
    more = (
        "--use-fake-device-for-media-stream",
        "--use-fake-ui-for-media-stream",
        f"--use-file-for-fake-video-capture={film}",
    )
    driver = chromium(more=more)
    yield Screen(driver, screen.url)
    driver.quit()


def test_a_label_before_the_camera_opens_its_loop(filming):
    filming.sign_in()
    filming.click(".findkey")
    filming.click(".finddialog .key", "Scan")
    filming.sees("Workshop loader")
    filming.until(lambda: filming.driver.current_url.endswith(filming.loop_page("W-02")), "the loop's own page")
    assert filming.complaints() == []


def test_without_a_camera_it_says_so_and_the_field_stays(screen):
    screen.sign_in()
    screen.click(".findkey")
    screen.click(".finddialog .key", "Scan")
    screen.sees("Type the number")
    screen.type("find-all", "g07")
    screen.until(lambda: found(screen) == ["G-07"], "found by hand")
