"""Addresses of settings and links between layers: what there is, and where it leads."""

import unittest
from fractions import Fraction

from msgspec.structs import replace

from tests.core.design.wrinkles import turning
from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import Link, LinkKind, links_of, relinked
from wrinkle.core.design.document.masking import Matte
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.sources import FillSource, NoiseSource, ShapeSource, WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, grouping, layer_edits, mask_edits, matte_edits
from wrinkle.core.errors import InputError
from wrinkle.core.picture import paths


def linked() -> Wrinkle:
    """A layer with a link of each kind."""
    wrinkle = turning()
    for name in ("Ink", "Sky"):
        wrinkle = layer_edits.add_layer(wrinkle, name, FillSource())
    wrinkle = grouping.group_layers(wrinkle, ["sky"], "Box")
    wrinkle = matte_edits.set_matte(wrinkle, "sky", Matte("ink"))
    wrinkle = layer_edits.change_layer(wrinkle, "sky", parent="turn")
    wrinkle, use = effect_edits.add_effect(wrinkle, "sky", "displace")
    sky = wrinkle.layer("sky")
    return layer_edits.with_layer(
        wrinkle, sky.with_effect(replace(sky.effect_use(use), layer="ink"))
    )


class Addresses(unittest.TestCase):
    def whole(self) -> Layer:
        wrinkle, _ = mask_edits.add_mask(turning(), "turn", paths.rectangle(0, 0, 1, 1))
        wrinkle, _ = effect_edits.add_effect(wrinkle, "turn", "glow")
        return replace(wrinkle.layer("turn"), source=WordsSource())

    def test_every_setting_is_found_declared_and_exchanged_by_its_address(self) -> None:
        layer = self.whole()
        addresses = layer.addresses()
        self.assertEqual(len(set(addresses)), len(addresses))
        parts = {address.part for address in addresses}
        self.assertEqual(parts, set(Part))
        for address in addresses:
            setting, spec = layer.setting(address), layer.spec(address)
            spec.checked(setting.rest)
            other = Setting(setting.rest, jitter=Jitter(Setting(0.0)) if spec.numeric else None)
            changed = layer.with_setting(address, other)
            self.assertEqual(changed.setting(address), other)
            others = [x for x in addresses if x != address]
            self.assertEqual(
                [changed.setting(x) for x in others], [layer.setting(x) for x in others]
            )
            if spec.numeric:
                self.assertEqual(changed.setting(address.jitter).rest, 0.0)
                self.assertEqual(changed.spec(address.jitter).label, f"{spec.label} jitter")

    def test_an_address_is_the_word_it_is_written_as(self) -> None:
        for word, part, owner, name in (
            ("opacity", Part.LAYER, "", "opacity"),
            ("source.size", Part.SOURCE, "", "size"),
            ("timing.speed", Part.TIMING, "", "speed"),
            ("masks.m1.feather", Part.MASK, "m1", "feather"),
            ("effects.e1:glow.radius", Part.EFFECT, "e1", "radius"),
        ):
            address = Address(word)
            self.assertEqual((address, hash(address)), (word, hash(word)))
            found = (address.part, address.mask or address.effect, address.name)
            self.assertEqual(found, (part, owner, name))
            self.assertEqual(address.jitter, f"{word}.jitter")
            self.assertEqual((address.jitter.base, address.jitter.is_jitter), (word, True))
        for word in ("nothing", "masks.m9.path", "fog.x", "opacity.jitter"):
            with self.assertRaises(KeyError):
                self.whole().setting(word)

    def test_two_kinds_of_sources_may_declare_the_same_name_differently(self) -> None:
        path = ShapeSource().spec("path")
        self.assertNotEqual(path, mask_edits.Mask.specs["path"])
        self.assertNotIn("path", WordsSource.specs)
        self.assertIs(NoiseSource().spec("seed"), NoiseSource.specs["seed"])

    def test_equal_wrinkles_with_effects_have_equal_hashes(self) -> None:
        wrinkle, use = effect_edits.add_effect(turning(), "turn", "glow")
        one = wrinkle.layer("turn").effect_use(use)
        for names in (("radius", "amount"), ("amount", "radius")):
            changed = one
            for name in names:
                changed = changed.with_setting(name, Setting(changed.spec(name).high))
            self.assertIn(changed, {changed: 1})
            one_way = layer_edits.with_layer(wrinkle, wrinkle.layer("turn").with_effect(changed))
            self.assertEqual(len({one_way, replace(one_way), wrinkle}), 2)


class Links(unittest.TestCase):
    def test_all_are_listed_led_elsewhere_and_taken_away(self) -> None:
        sky = linked().layer("sky")
        found = {link.kind: link.target for link in links_of(sky)}
        wanted = {
            LinkKind.PARENT: "turn",
            LinkKind.GROUP: "box",
            LinkKind.MATTE: "ink",
            LinkKind.EFFECT: "ink",
        }
        self.assertEqual(found, wanted)
        elsewhere = relinked(sky, lambda link: f"{link.target}-2")
        self.assertEqual({x.target for x in links_of(elsewhere)}, {"turn-2", "box-2", "ink-2"})
        self.assertEqual(links_of(relinked(sky, lambda link: None)), ())
        self.assertEqual(relinked(sky, lambda link: link.target), sky)

    def test_one_that_leads_nowhere_is_refused_by_its_kind(self) -> None:
        wrinkle = linked()
        for kind in LinkKind:

            def gone(link: Link, kind: LinkKind = kind) -> str:
                return "nobody" if link.kind is kind else link.target

            broken = relinked(wrinkle.layer("sky"), gone)
            with self.assertRaisesRegex(InputError, f"The {kind.value} of the layer 'Sky'"):
                layer_edits.with_layer(wrinkle, broken)

    def test_a_layer_that_goes_takes_the_links_to_it_along(self) -> None:
        left = layer_edits.remove_layer(linked(), "ink").layer("sky")
        self.assertEqual({x.kind for x in links_of(left)}, {LinkKind.PARENT, LinkKind.GROUP})
        wrinkle = grouping.dissolve_group(linked(), "box")
        self.assertIsNone(wrinkle.layer("sky").group)
        self.assertEqual(wrinkle.layer("sky").setting("opacity").at(Fraction(0)), 100.0)
