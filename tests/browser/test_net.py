"""Slow and broken networks: nothing silent, nothing lost, nothing twice; at each stage."""

import pytest

from jobs.models import Entry
from tools.browser import cut_network

pytestmark = pytest.mark.browser

LATENCY_MS = 1500
# the server does what it was asked, and the answer is lost on its way: once, for the next request that records
DROP_NEXT_ANSWER = """
const real = window.fetch;
window.fetch = async (request) => {
  const answer = await real(request);
  if (request.method === 'POST' && request.url.endsWith('/entries')) {
    window.fetch = real;
    throw new TypeError('Failed to fetch');
  }
  return answer;
};
"""
# what the page said at any moment: a second try may come before a busy machine looks
REMEMBER = """
window.said = '';
const remember = () => { window.said += document.body.innerText; };
new MutationObserver(remember).observe(document.body, {childList: true, subtree: true});
"""
# a machine at each stage, a field of its sheet, and what is typed there
FIELDS = {
    "identify": ("R-02", "found", "-17"),
    "drain": ("T-22", "gross-A-0", "8.4"),
    "flush": ("G-02", "ran-min", "22"),
    "mix": ("G-07", "target", "-41"),
    "fill": ("G-07", "product", "5.6"),
    "inspect": ("S-12", "sediment", "4"),
    "verify": ("D-17", "sample", "17"),
}


def to_sample(screen):
    """A sample looked at, its sediment wanted; the safe-to-open check behind."""
    screen.go("Next: sample")
    screen.go("Check it is safe to open")
    screen.feel()
    screen.click(".MuiToggleButton-root", "Bottom of the bottle")
    screen.click(".samplepanel .opt", "Orange rust")


def refill(screen):
    """S-12 in work: its coolant chosen."""
    screen.find_machine("S-12")
    screen.click(".looprow .key", "Start job")
    screen.click(".startjob .opt", "Refill, same type")
    screen.click(".choice", "Winterline O\n")
    screen.go("Choose Winterline O")
    screen.one(".panelpick")


BEFORE = {  # what leads to the field, where the machine does not stand there
    "drain": lambda s: (s.go("Resume job"), s.to_drain(known=False)),
    "inspect": lambda s: (refill(s), to_sample(s)),
    "fill": lambda s: (s.go("Accept this mix"), s.close_up()),
}


def slow(screen, latency=LATENCY_MS):
    """A network that takes its time."""
    screen.driver.execute_cdp_cmd("Network.enable", {})
    conditions = {"offline": False, "latency": latency, "downloadThroughput": -1, "uploadThroughput": -1}
    screen.driver.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)


@pytest.fixture
def net(screen):
    """Somebody signed in; the network is whole again afterwards."""
    screen.sign_in()
    yield screen
    slow(screen, 0)
    screen.driver.get_log("browser")  # what was lost on purpose complains there


@pytest.mark.parametrize("stage", FIELDS)
def test_what_is_typed_survives_a_slow_network_and_a_closed_tab(net, stage):
    machine, name, text = FIELDS[stage]
    net.open(net.loop_page(machine))
    BEFORE.get(stage, lambda s: None)(net)
    net.one(f"input[name={name}]")
    slow(net)
    net.type(name, text)
    net.driver.get("about:blank")  # before anything was saved: the tab is closed
    slow(net, 0)
    net.open(net.loop_page(machine))
    net.until(lambda: net.value(name) == text, "what was typed")


def test_a_draft_is_called_kept_only_once_it_is(net):
    net.open(net.loop_page("G-07"))
    slow(net)
    net.type("target", "-41")
    net.until(lambda: "Draft in this browser" in net.text or "Saving the draft" in net.text, "not kept yet")
    net.sees("Saving …", "Draft kept for Ines")


def drain_known(screen, litres):
    """From the gate of B-14 to its litres."""
    screen.bench("B-14")
    screen.to_drain()
    screen.type("drained", litres)


DROPPED = {
    "identify": (
        lambda s: (s.bench("R-02"), s.click(".choice", "Old Guard S"), s.one("[data-testid=go]", "Choose")),
        "Choose",
    ),
    "open": (
        lambda s: (s.bench("B-14"), s.click(".signs button", "held, both"), s.click(".signs button", "soft")),
        "Confirm",
    ),
    "drain": (lambda s: drain_known(s, "12"), "Record 12.0 L out"),
    "mix": (lambda s: (s.bench("G-07"), s.one("[data-testid=concentrate]")), "Accept this mix"),
    "inspect": (lambda s: (refill(s), to_sample(s), s.type("sediment", "4")), "Record what was found"),
    "fill": (lambda s: (s.bench("G-07"), s.go("Accept this mix"), s.tick(".closing [role=checkbox]")), "tight"),
    "verify": (
        lambda s: (s.bench("D-17"), s.go("Adjust: swap 4.1 L"), s.type("swap-out", "4,1")),
        "Record 4.1 L out",
    ),
    "flush": (lambda s: (s.bench("G-02"), s.click(".runwatch button", "both hot")), "Engine off"),
}


@pytest.mark.parametrize("stage", DROPPED)
def test_a_dropped_answer_is_asked_for_again_and_stored_once(net, stage):
    to_plate, act = DROPPED[stage]
    to_plate(net)
    if stage == "open":
        net.stand_ready()
    net.one("[data-testid=go][aria-disabled=false]", act)
    before = Entry.objects.count()
    net.driver.execute_script(DROP_NEXT_ANSWER)
    net.driver.execute_script(REMEMBER)
    net.go(act)
    net.until(lambda: Entry.objects.count() > before, "the entry stored")
    stored = Entry.objects.count()
    for words in ("The server does not answer", "kept in this browser"):
        net.until(lambda words=words: net.driver.execute_script("return window.said.includes(arguments[0])", words), words)
    net.until(lambda: not net.all(".netmark.silent"), "the answer of the second try")
    net.until(lambda: act not in net.plate or "Engine" in act, "the next act")
    assert Entry.objects.count() == stored
    assert "Not recorded" not in net.text


def test_without_a_network_it_says_when_it_tries_again_and_goes_on_by_itself(net):
    net.bench("R-02")
    net.click(".choice", "Old Guard S")
    net.one("[data-testid=go][aria-disabled=false]", "Choose Old Guard S")
    cut_network(net.driver, True)
    net.go("Choose Old Guard S")
    net.sees("The server does not answer", "Trying again in")
    cut_network(net.driver, False)
    net.one(".panelpick")
    assert Entry.objects.filter(loop__machine__fleet_number="R-02", kind="planned").count() == 1
