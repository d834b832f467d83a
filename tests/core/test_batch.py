"""From litres to cans, buckets and jugs; worked examples by hand and laws."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.calculate.mix import BatchQuestion, Container, batch
from temper_core.calculate.mix.batch import DROP_L
from temper_core.calculate.mix.containers import Whole


def ask(product_l, water_l=0.0, sizes=(5.0,), **more):
    """Sold in these sizes; nothing at hand unless said."""
    return batch(BatchQuestion(product_l, water_l, tuple(Container(size) for size in sizes), **more))


def test_the_groomers_cans():
    """Worked by hand: 18.3 l from 5 l cans is three whole ones and 3.3 l of a fourth, so 1.7 l stays."""
    answer = ask(18.3, 6.6, kept_back_l=0.4, price_per_l=6.4)
    assert answer.whole == (Whole(5.0, 3),)
    assert answer.part.pour_l == pytest.approx(3.3)
    assert answer.part.stays_l == answer.left_over_l == pytest.approx(1.7)
    assert (answer.water.whole, answer.water.last_mark_l) == (1, pytest.approx(1.2))
    assert answer.cost_used == pytest.approx(117.12)
    assert answer.cost_bought == pytest.approx(128.0)
    assert answer.to_buy == answer.needed == (Whole(5.0, 4),)
    assert (answer.whole_l, answer.water_l) == (15.0, pytest.approx(6.2))


def test_two_and_a_half_gallons_of_half_and_half():
    """Derived: 2.5 US gal of 50 % are 1.25 + 1.25; from gallon jugs one whole and a quarter of the next."""
    gallon = 3.785411784
    answer = ask(1.25 * gallon, 1.25 * gallon, sizes=(gallon,), jug_l=gallon)
    assert answer.whole == (Whole(gallon, 1),)
    assert answer.part.pour_l == pytest.approx(gallon / 4)
    assert (answer.water.whole, answer.water.last_mark_l) == (1, pytest.approx(gallon / 4))


def test_four_litres_are_not_a_gallon():
    """Derived: a 4 l can is 1.057 US gal; taken for one it leaves 0.215 l."""
    answer = ask(3.785411784, sizes=(4.0,))
    assert answer.part.stays_l == pytest.approx(0.2146, abs=1e-3)


def test_least_is_left_over_then_least_is_measured():
    assert ask(20.0, sizes=(5.0, 20.0)).whole == (Whole(20.0, 1),)  # nothing to measure either way: fewer to carry
    assert ask(21.0, sizes=(5.0, 20.0)).left_over_l == pytest.approx(4.0)
    answer = ask(18.3, sizes=(5.0, 20.0))
    assert answer.part.size_l == 5.0  # 3.3 of 5 is easier measured than 18.3 of 20
    assert ask(6.0, sizes=(1.0, 5.0)).part is None


def test_what_stands_there_goes_first_and_the_rest_is_bought():
    containers = (Container(5.0, at_hand=2), Container(20.0, at_hand=0))
    answer = batch(BatchQuestion(18.3, 0.0, containers, price_per_l=2.0))
    assert answer.to_buy == (Whole(5.0, 2),)
    assert answer.cost_bought == pytest.approx(20.0)
    enough = batch(BatchQuestion(9.0, 0.0, containers, price_per_l=2.0))
    assert enough.to_buy == ()
    assert enough.cost_bought == 0


def test_what_is_neither_there_nor_sold_is_short():
    answer = batch(BatchQuestion(18.3, 0.0, (Container(5.0, at_hand=2, sold=False),)))
    assert answer.short_l == pytest.approx(8.3)
    assert answer.whole == (Whole(5.0, 2),)
    assert answer.part is None


def test_a_large_blend_is_split_into_buckets_alike():
    """33 + 18 l in 25 l buckets: three of 17 l, each 11 l of product filled up with water."""
    answer = ask(33.0, 18.0, sizes=(20.0,), bucket_l=25.0)
    assert answer.buckets.count == 3
    assert answer.buckets.product_mark_l == pytest.approx(11.0)
    assert answer.buckets.full_mark_l == pytest.approx(17.0)


def test_ready_mix_needs_no_bucket_and_no_water():
    answer = ask(12.0)
    assert answer.buckets is None
    assert (answer.water.whole, answer.water.last_mark_l) == (0, 0.0)
    assert answer.cost_used is None


def test_nothing_is_opened_for_nothing():
    answer = ask(0.0, 6.0)
    assert answer.whole == ()
    assert answer.part is None
    assert answer.left_over_l == 0


sizes = st.lists(st.sampled_from([0.5, 1.0, 2.5, 4.0, 5.0, 20.0, 25.0, 60.0]), min_size=1, max_size=3, unique=True)


@given(st.floats(0.05, 120), sizes, st.lists(st.integers(0, 4), min_size=3, max_size=3))
def test_what_is_opened_is_what_is_needed(need, given_sizes, at_hand):
    containers = tuple(Container(size, n) for size, n in zip(given_sizes, at_hand, strict=False))
    answer = batch(BatchQuestion(need, 0.0, containers))
    opened = sum(row.size_l * row.count for row in answer.whole) + (answer.part.size_l if answer.part else 0)
    assert answer.short_l == 0
    assert opened - answer.left_over_l == pytest.approx(need, abs=DROP_L + 1e-9)
    if answer.part:
        assert 0 <= answer.part.stays_l < answer.part.size_l
    assert all(row.count > 0 for row in (*answer.whole, *answer.to_buy))


def test_a_size_that_fits_to_the_drop_is_taken_alone():
    """Worked by hand: 57.5 l is 23 cans of 2.5 l; eleven cans of 4 l first would leave half a litre over."""
    answer = ask(57.5, sizes=[2.5, 4.0])
    assert answer.left_over_l == 0
    assert answer.needed == (Whole(2.5, 23),)


@given(st.floats(0.05, 80), sizes)
def test_no_single_size_leaves_less_over(need, given_sizes):
    best = ask(need, sizes=given_sizes).left_over_l
    for size in given_sizes:
        assert best <= math.ceil((need - DROP_L) / size) * size - need + 2 * DROP_L


@given(st.floats(0, 100), st.floats(0, 100), st.floats(1, 60), st.floats(0.2, 20))
def test_marks_add_up(product, water, bucket, jug):
    answer = ask(product, water, bucket_l=bucket, jug_l=jug)
    assert answer.water.whole * jug + answer.water.last_mark_l == pytest.approx(water, abs=DROP_L)
    if answer.buckets:
        assert answer.buckets.count * answer.buckets.full_mark_l == pytest.approx(product + water)
        assert answer.buckets.full_mark_l <= bucket * (1 + 1e-6)


@pytest.mark.parametrize(
    ("make", "field"),
    [
        (lambda: Container(0), "size_l"),
        (lambda: Container(5, -1), "at_hand"),
        (lambda: ask(-1), "product_l"),
        (lambda: ask(math.nan), "product_l"),
        (lambda: ask(5, 1, kept_back_l=2), "kept_back_l"),
        (lambda: ask(5, sizes=()), "containers"),
        (lambda: ask(5, sizes=(1, 2, 3, 4, 5)), "containers"),
        (lambda: ask(5, sizes=(1, 1)), "containers"),
        (lambda: ask(4000, sizes=(0.5,)), "containers.0.size_l"),
        (lambda: ask(5, bucket_l=0), "bucket_l"),
        (lambda: ask(5, jug_l=0.01), "jug_l"),
        (lambda: ask(5, price_per_l=-1), "price_per_l"),
        (lambda: batch(BatchQuestion(5, 0, (Container(5, sold=False),))), "containers"),
    ],
)
def test_what_cannot_be_is_refused_by_name(make, field):
    with pytest.raises(CoreError) as refused:
        make()
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("poured", "from_each"),
    [(0.0, [0, 0, 0, 0]), (7.5, [5, 2.5, 0, 0]), (18.3, [5, 5, 5, 3.3]), (19.0, [5, 5, 5, 3.3])],
)
def test_cans_are_counted_down_by_what_is_in(poured, from_each):
    """[derived] 18.3 l from cans of 5: three whole ones, 3.3 from the fourth, 1.7 stays."""
    answer = batch(BatchQuestion(18.3, 6.6, (Container(5.0),), poured_product_l=poured, poured_water_l=2.0))
    assert [can.poured_l for can in answer.cans] == pytest.approx(from_each)
    assert [can.stays_l for can in answer.cans] == pytest.approx([0, 0, 0, 1.7])
    assert answer.water_left_l == pytest.approx(4.6)


def test_a_bulk_of_cans_is_not_counted_one_by_one():
    assert batch(BatchQuestion(400.0, 0.0, (Container(5.0),))).cans == ()
