"""For everyone: axe on every page and stage, and what can be read at every size; measured by rendered pixels."""

from pathlib import Path

import pytest

pytestmark = pytest.mark.browser

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
# WCAG 2.2, levels A and AA, by axe-core (Deque, MPL 2.0). What is fixed at the foot is laid into the page for the size of
# targets: an element that is scrolled half under it is not small.
RUN = """
const done = arguments[0];
axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']}).then((found) =>
  done(found.violations.map((v) => `${v.id}: ${v.nodes.slice(0, 3).map((n) => n.target.join(' ')).join(', ')}`)));
"""
LAID_OUT = """
const style = document.createElement('style');
style.nonce = document.querySelector('meta[name=csp-nonce]').content;
style.textContent = '.gocorner, .tabbar, .pulls, .chipsline, .jumps, .undobar { position: static !important }';
document.head.append(style);
"""
PAGES = [
    *("/", "/machines", "/readings", "/readings?view=together", "/readings?view=import", "/instruments", "/products"),
    *("/plan", "/plan?view=attention", "/plan?view=figures", "/profile"),
    *("/rules", "/people", "/help", "/frost-plan", "/machines/new", "/machines/1", "/nowhere"),
    *("S-12 ", "S-12 /check", "S-12 /history", "S-12 /record", "S-12 /sheet", "S-12 /labels"),
]
STAGES = ["R-02", "V-31", "B-14", "G-02", "G-07", "L-05", "D-17", "IR-1", "T-22", "H-09", "T-21", "C-03"]


def address(screen, page):
    """A page as it stands, or one of a machine's loop."""
    number, _, part = page.partition(" ")
    return page if page.startswith("/") else screen.loop_page(number, part)


def violations(screen):
    """What axe finds on the page on show."""
    return screen.driver.execute_async_script(RUN)


# both sizes and both themes; layout does not hang on colours, so each size is looked at in one of them
LOOKS = (((1280, 800), "light"), ((390, 844), "dark"))


def check(screen, pages):
    """Every page at two sizes, one in each theme."""
    screen.driver.set_script_timeout(60)
    script, found = AXE.read_text(), {}
    for page in pages:
        screen.open(address(screen, page))
        screen.one("#work")
        screen.until(lambda: "Loading …" not in screen.text, "the page to be loaded")
        screen.driver.execute_script(script)
        screen.driver.execute_script(LAID_OUT)
        for size, theme in LOOKS:
            screen.resize(*size)
            screen.driver.execute_script(f"document.documentElement.dataset.theme = '{theme}'")
            bad = violations(screen)
            if bad:
                found[page, size[0], theme] = bad
        screen.resize(1280, 800)
    assert found == {}


def test_axe_finds_nothing_on_any_page(screen):
    screen.open()
    screen.one("input[name=username]")
    screen.driver.set_script_timeout(60)
    screen.driver.execute_script(AXE.read_text())
    assert violations(screen) == []
    screen.sign_in("maud")
    check(screen, PAGES)


def test_axe_finds_nothing_at_any_stage(screen):
    screen.sign_in()
    check(screen, STAGES)


SIZES = [(1366, 650), (1280, 657), (1024, 768), (768, 1024), (390, 844), (360, 640)]
LEAST_PX = 14
SMALL_TEXT_IN_FIGURES = """
return [...document.querySelectorAll('svg text')].filter((t) => t.getClientRects().length && t.textContent.trim())
  .map((t) => {
    const m = t.getScreenCTM();
    const scale = Math.min(Math.hypot(m.a, m.b), Math.hypot(m.c, m.d));
    return [t.textContent.trim().slice(0, 20), parseFloat(getComputedStyle(t).fontSize) * scale];
  })
  .filter(([, size]) => size < arguments[0] - 0.05).map(([t, size]) => `${t} ${size.toFixed(1)}`);
"""
WIDER_THAN_THE_PAGE = "return document.documentElement.scrollWidth - document.documentElement.clientWidth"
FIXED = """
let covered = 0;
for (const e of document.querySelectorAll('body *')) {
  const { position } = getComputedStyle(e);
  const box = e.getBoundingClientRect();
  const shown = e.getClientRects().length && box.top < innerHeight && box.bottom > 0 && box.width > innerWidth / 2;
  if (position === 'fixed' && shown) covered += Math.min(box.bottom, innerHeight) - Math.max(box.top, 0);
  if (position === 'sticky' && shown && box.bottom > innerHeight * 0.6) covered += box.height;
}
return Math.round(covered);
"""
MOST_FIXED_PX = 200


def test_text_in_figures_can_be_read_at_every_size(screen):
    screen.sign_in()
    for page in (*STAGES, "S-12 ", "S-12 /history", "/instruments"):
        screen.open(address(screen, page))
        screen.one("#work")
        for size in SIZES:
            screen.resize(*size)
            small = screen.until(
                lambda: (now := screen.driver.execute_script(SMALL_TEXT_IN_FIGURES, LEAST_PX)) == [] or now, "sizes"
            )
            if small is not True:  # drawn again for its new room a frame later
                screen.until(
                    lambda: screen.driver.execute_script(SMALL_TEXT_IN_FIGURES, LEAST_PX) == [], f"{page} at {size}: {small}"
                )
            assert screen.driver.execute_script(WIDER_THAN_THE_PAGE) <= 0, (page, size)
        screen.resize(1280, 800)


def test_nothing_scrolls_sideways_at_320_and_little_is_fixed_at_390(screen):
    screen.sign_in("maud")
    for page in (*PAGES, *STAGES):
        screen.resize(320, 640)
        screen.open(address(screen, page))
        screen.one("#work")
        assert screen.driver.execute_script(WIDER_THAN_THE_PAGE) <= 0, page
        screen.resize(390, 844)
        assert screen.driver.execute_script(FIXED) <= MOST_FIXED_PX, page


def test_at_twice_the_size_everything_is_still_there(screen):
    """1280 x 800 at 200 %: what a page of 640 x 400 shows (WCAG 2.2, 1.4.4 and 1.4.10)."""
    screen.sign_in()
    screen.resize(640, 400)
    for page in ("/", "/machines", "G-07", "R-02", "S-12 /check", "/rules"):
        screen.open(address(screen, page))
        screen.one("#work")
        assert screen.driver.execute_script(WIDER_THAN_THE_PAGE) <= 0, page
        screen.until(lambda: screen.one("#work").size["height"] > 200, f"the work of {page}")


def test_the_focus_goes_to_a_heading_or_a_field_after_each_act_and_never_to_the_body(screen):
    screen.sign_in()
    screen.bench("R-02")

    def focused():
        """The tag that has the focus."""
        return screen.driver.execute_script("return document.activeElement.tagName")

    screen.until(lambda: focused() == "H1", "the heading of the sheet")
    screen.click(".choice", "Old Guard S")
    screen.go("Choose Old Guard S")
    screen.decide()
    screen.one(".signs")
    screen.until(lambda: focused() != "BODY", "the focus after the decision")
    screen.feel()
    screen.one("input[name=gross-A-0]:focus")
    screen.click(".menukey")
    screen.click(".placelist a", "Rules")
    screen.until(lambda: screen.driver.execute_script("return document.activeElement.textContent") == "Rules", "its heading")


def test_keys_are_listed_on_a_question_mark_and_ctrl_z_undoes(screen):
    from jobs.models import Entry

    screen.sign_in()
    body = screen.driver.find_element("css selector", "body")
    body.send_keys("?")
    screen.sees("Undo what was recorded a moment ago", "Find a machine")
    screen.click(".keysheet .key", "Close")
    screen.until(lambda: screen.all(".keysheet") == [], "the list closed")
    screen.bench("R-02")
    screen.click(".choice", "Old Guard S")
    screen.go("Choose Old Guard S")
    screen.one(".undobar")
    screen.driver.find_element("css selector", "body").send_keys("\ue009z\ue000")
    screen.until(
        lambda: Entry.objects.filter(loop__machine__fleet_number="R-02").latest("seq").kind == "voided", "the choice undone"
    )


def test_a_term_can_be_tapped_and_each_drawing_has_its_table(screen):
    screen.sign_in()
    screen.bench("G-07")
    screen.click(".standingline .term", "still inside")
    screen.sees("What the drains did not let out.")
    screen.click(".MuiBackdrop-root")
    screen.click(".twinkey")
    screen.sees("vessel", "old coolant", "Engine block")
    screen.click(".keysheet .key", "Close")
    screen.click(".stagehint .key", "Got it")
    screen.until(lambda: screen.all(".stagehint") == [], "the first-run line gone")
    screen.driver.refresh()
    screen.one("[data-testid=concentrate]")
    assert screen.all(".stagehint") == []
