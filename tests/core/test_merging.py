import unittest
from dataclasses import dataclass, replace

from hypothesis import given
from hypothesis import strategies as some

from wrinkle.core.design.document.masking import Matte
from wrinkle.core.design.edits import effect_edits, layer_edits, wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.merging import CrossedError, merged
from wrinkle.files.archive import read
from wrinkle.library import shipped


@dataclass(frozen=True)
class Part:
    id: str
    value: int = 0
    other: int = 0


@dataclass(frozen=True)
class Whole:
    parts: tuple[Part, ...] = ()
    title: str = ""


ABC = Whole(tuple(Part(x) for x in "abc"), "t")


def named(names: str) -> Whole:
    return Whole(tuple(Part(x) for x in names), "t")


def with_part(whole: Whole, name: str, **changes: int) -> Whole:
    parts = (replace(x, **changes) if x.id == name else x for x in whole.parts)
    return replace(whole, parts=tuple(parts))


class Merged(unittest.TestCase):
    def test_what_touches_different_parts_counts_both_times(self) -> None:
        for late, now, wanted in (
            (with_part(ABC, "a", value=1), with_part(ABC, "b", value=2),
             with_part(with_part(ABC, "a", value=1), "b", value=2)),
            (with_part(ABC, "a", value=1), with_part(ABC, "a", other=2),
             with_part(ABC, "a", value=1, other=2)),
            (named("abcd"), named("acb"), named("acdb")),
            (named("xabc"), named("bc"), named("xbc")),
            (named("ab"), named("abcy"), named("aby")),
            (named("cba"), replace(ABC, title="u"), replace(named("cba"), title="u")),
        ):  # fmt: skip
            with self.subTest(late=late, now=now):
                self.assertEqual(merged(ABC, late, now), wanted)

    def test_what_touches_the_same_part_is_refused(self) -> None:
        for late, now in (
            (with_part(ABC, "a", value=1), with_part(ABC, "a", value=2)),
            (with_part(ABC, "a", value=1), named("bc")),
            (named("bc"), with_part(ABC, "a", value=2)),
            (named("cba"), named("bac")),
            (named("abcd"), with_part(named("abcd"), "d", value=3)),
        ):
            with self.subTest(late=late, now=now), self.assertRaises(CrossedError):
                merged(ABC, late, now)

    def test_a_wrinkle_that_becomes_impossible_is_refused(self) -> None:
        wrinkle = read(shipped()["sea_fog"]).wrinkle
        last = wrinkle.layers[-1].id
        blurred, _ = effect_edits.add_effect(wrinkle, last, "gaussian_blur")
        both = merged(wrinkle, blurred, wrinkle_edits.rename(wrinkle, "Fog at sea"))
        self.assertEqual(both.name, "Fog at sea")
        self.assertEqual(both.layers[-1].effects, blurred.layers[-1].effects)
        first = wrinkle.layers[0].id
        cut = layer_edits.change_layer(wrinkle, last, matte=Matte(first))
        self.assertEqual(merged(wrinkle, cut, blurred).layers[-1].matte, Matte(first))
        with self.assertRaises(InputError):
            merged(wrinkle, cut, layer_edits.remove_layer(wrinkle, first))

    @given(
        some.permutations("abcd"), some.permutations("abcd"), some.sets(some.sampled_from("abcd"))
    )
    def test_one_change_alone_is_that_change(self, order, other, gone) -> None:  # type: ignore[no-untyped-def]
        base = named("abcd")
        late = named("".join(x for x in order if x not in gone))
        self.assertEqual(merged(base, late, base), late)
        self.assertEqual(merged(base, base, late), late)
        self.assertEqual(merged(base, late, late), late)
