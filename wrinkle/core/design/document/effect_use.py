"""An effect in the document: which one, whether it acts, and its settings."""

from __future__ import annotations

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.setting import Setting, check_setting, neutral, settled_setting
from wrinkle.core.design.document.sources import check_asset
from wrinkle.core.effects.effect import Effect
from wrinkle.core.effects.registry import effect
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import SettingSpec


class EffectUse(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One effect of a layer; nobody writes into ``values``.

    Attributes:
        id: unique within the layer, without dots and colons.
        kind: the key of the effect.
        shown: whether it acts at all.
        layer: the id of the layer that it looks at, for an effect that needs one.
        asset: the colour table's name within the wrinkle's assets, for an effect that reads one.
        values: its settings by their names; those that are missing have their neutral value.
    """

    id: str
    kind: str
    shown: bool = True
    asset: str = ""
    layer: str | None = None
    values: dict[str, Setting] = msgspec.field(default_factory=dict)

    def __post_init__(self) -> None:
        if not self.id or set(self.id) & set(".:"):
            raise InputError("An effect needs an id without dots and colons.")
        if self.asset:
            check_asset(self.asset)
        known = {spec.key for spec in self.effect.settings}
        for name, setting in self.values.items():
            if name not in known:
                raise InputError(f"The effect '{self.effect.label}' has no setting '{name}'.")
            check_setting(self.effect.spec(name), setting)
        specs = {name: self.effect.spec(name) for name in self.values}
        kept = {
            name: settled_setting(specs[name], setting)
            for name, setting in self.values.items()
            if setting != neutral(specs[name])
        }
        if kept != self.values:
            # One way to write each effect, so that what is equal is the same document.
            msgspec.structs.force_setattr(self, "values", kept)

    @property
    def effect(self) -> Effect:
        """The declaration."""
        return effect(self.kind)

    def __hash__(self) -> int:
        # The order in which settings were touched counts neither for equality nor here.
        values = frozenset(self.values.items())
        return hash((self.id, self.kind, self.shown, self.asset, self.layer, values))

    def address(self, name: str) -> Address:
        """The address of a setting within the layer."""
        return Address.of(Part.EFFECT, name, f"{self.id}:{self.kind}")

    def addresses(self) -> tuple[Address, ...]:
        """The addresses of all its settings."""
        return tuple(self.address(spec.key) for spec in self.effect.settings)

    def setting(self, name: str) -> Setting:
        """A setting by its name.

        Raises:
            KeyError: there is none.
        """
        found = self.values.get(name)
        return found if found is not None else neutral(self.effect.spec(name))

    def spec(self, name: str) -> SettingSpec:
        """The declaration of a setting.

        Raises:
            KeyError: there is none.
        """
        return self.effect.spec(name)

    def with_setting(self, name: str, setting: Setting) -> EffectUse:
        """The effect with a setting exchanged."""
        return replace(self, values={**self.values, name: setting})
