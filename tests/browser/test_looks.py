"""What can be measured of looks: nothing cut at any width, sizes for gloves, text that can be read, no complaints."""

import pytest

pytestmark = pytest.mark.browser

PAGES = [
    "",
    "/machines",
    "/loops/1",
    "/loops/2",
    "/loops/4",
    "/loops/6",
    "/loops/7",
    "/loops/2/record",
    "/plan",
    "/people",
    "/practice",
    "/practice/record",
    "/profile",
    "/rules",
    "/products",
    "/shelf",
    "/shelf/1",
    "/shelf/waste",
    "/instruments",
    "/readings",
    "/readings?view=together",
    "/machines/1",
    "/machines/new",
    "V-31",
    "B-14",
    "P-06 /history",
    "/nowhere",
]
WIDER_THAN_THE_PAGE = "return document.documentElement.scrollWidth - document.documentElement.clientWidth"
SMALL_TARGETS = """
return [...document.querySelectorAll('button, a.bstrip, a.finished, a.key, [role=radio], [role=checkbox]')]
  .filter((e) => e.offsetParent && !e.closest('.skip') && !e.matches('.term, .bandhead')) // they reach beyond themselves
  .map((e) => [e.textContent.trim().slice(0, 20) || e.getAttribute('aria-label'), e.getBoundingClientRect()])
  .filter(([, r]) => r.height < 47.5 || r.width < 47.5)
  .map(([t, r]) => `${t} ${Math.round(r.width)}x${Math.round(r.height)}`)
"""
SMALL_TEXT = """
const seen = [];
const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
while (walk.nextNode()) {
  const e = walk.currentNode.parentElement;
  if (!walk.currentNode.textContent.trim() || !e.getClientRects().length) continue;
  if (e.closest('.visually-hidden, script, style')) continue;
  const svg = e.closest('svg');
  const scale = svg && svg.viewBox.baseVal.width ? svg.getBoundingClientRect().width / svg.viewBox.baseVal.width : 1;
  const size = parseFloat(getComputedStyle(e).fontSize) * Math.min(scale, 1.2);
  if (size < 12.5) seen.push(`${walk.currentNode.textContent.trim().slice(0, 20)} ${size.toFixed(1)}`);
}
return seen;
"""
CONTRAST = """
const luminance = (c) => {
  const linear = (v) => (v <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
  const [r, g, b] = c.match(/[\\d.]+/g).map((v) => linear(Number(v) / 255));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const behind = (e) => {
  for (; e; e = e.parentElement) {
    const c = getComputedStyle(e).backgroundColor;
    if (c !== 'rgba(0, 0, 0, 0)' && c !== 'transparent' && c.startsWith('rgb')) return c;
  }
  return 'rgb(255, 255, 255)';
};
const bad = [];
for (const e of document.querySelectorAll('b, span, p, td, th, label, input, li, h1')) {
  if (!e.getClientRects().length || !e.textContent.trim() || e.closest('svg, .visually-hidden, .oldkey')) continue;
  if (![...e.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim())) continue;
  const a = luminance(getComputedStyle(e).color), b = luminance(behind(e));
  const ratio = (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
  if (ratio < 4.5) bad.push(`${e.textContent.trim().slice(0, 24)} ${ratio.toFixed(2)}`);
}
return bad;
"""


def address(screen, page):
    """A page as it stands, or one of a machine's loop."""
    number, _, part = page.partition(" ")
    return screen.loop_page(number, part) if page and not page.startswith("/") else page


SIZES = {"bench": (1280, 800), "tablet": (1024, 768), "phone": (390, 844)}


def test_nothing_is_cut_everything_is_large_enough_and_stands_out(screen):
    """Each page at three sizes and in both themes; contrast by WCAG 2.2, 1.4.3: 4.5 to 1."""
    screen.sign_in()
    for page in PAGES:
        screen.open(address(screen, page))
        screen.one("#work")
        screen.sees("oard")
        if page.endswith("/history"):
            screen.one(".MuiLineChart-line")
        for name, size in SIZES.items():
            screen.resize(*size)
            assert screen.driver.execute_script(WIDER_THAN_THE_PAGE) <= 0, (page, name)
            assert screen.driver.execute_script(SMALL_TARGETS) == [], (page, name)
            assert screen.driver.execute_script(SMALL_TEXT) == [], (page, name)
        screen.resize(*SIZES["bench"])
        for theme in ("dark", "light"):
            screen.driver.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
            assert screen.driver.execute_script(CONTRAST) == [], (page, theme)


def test_the_go_plate_is_in_sight_everywhere(screen):
    screen.sign_in()
    for size in ((1280, 800), (390, 844)):
        screen.resize(*size)
        for page in ("", "/loops/2/check", "/loops/1", "/loops/4"):
            screen.open(page)
            box = screen.one("[data-testid=go]").rect
            assert box["y"] + box["height"] <= size[1], (page, size)
            assert box["x"] + box["width"] <= size[0], (page, size)


def test_on_a_phone_circuit_and_rule_are_pulled_up(screen):
    screen.sign_in()
    screen.resize(390, 844)
    screen.open("/loops/1")
    screen.click(".pulls button", "Frost rule")
    screen.one(".rule.pulled .rule-figure")
    screen.click(".rule .pullup-close")
    screen.click(".pulls button", "Circuit")
    assert "Engine block" in screen.one(".circuit.pulled").text


def test_long_names_are_not_cut_off_the_page(screen):
    from fleet.models import Machine

    Machine.objects.filter(fleet_number="G-07").update(
        fleet_number="GROOMER-007-WEST", kind="Piste groomer with winch and front tiller", description="x" * 110
    )
    screen.sign_in()
    for size in ((1280, 800), (390, 844)):
        screen.resize(*size)
        for page in ("", "/machines", "/loops/1"):
            screen.open(page)
            screen.sees("GROOMER-007")
            assert screen.driver.execute_script(WIDER_THAN_THE_PAGE) <= 0, (page, size)


def test_an_empty_bay_says_what_to_do(screen):
    from jobs.models import JobLoop

    JobLoop.objects.all().delete()
    screen.sign_in()
    screen.sees("No job is in progress", "No check is due")
    screen.go("Start job")
    screen.one(".looprow")


def test_wrong_password_is_said_at_the_form(screen):
    screen.open()
    screen.type("username", "ines")
    screen.type("password", "guess")
    screen.go("Sign in")
    screen.sees("Name or password is wrong")
    assert screen.value("username") == "ines"


MOVED = {
    "/policy": "/rules",
    "/catalogue": "/products",
    "/log?view=together": "/readings?view=together",
    "/season": "/frost-plan",
    "/loops/4/ledger": "/loops/4/record",
    "/loops/4/look": "/loops/4/check",
}


def test_addresses_of_before_lead_to_their_pages(screen):
    screen.sign_in("maud")
    for before, now in MOVED.items():
        screen.open(before)
        screen.until(lambda now=now: screen.driver.current_url.endswith(now), f"{now} to open")
