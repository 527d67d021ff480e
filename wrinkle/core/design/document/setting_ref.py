"""One setting of one layer, or of one sound, of a wrinkle."""

from __future__ import annotations

from typing import NamedTuple

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.setting_spec import SettingSpec


class SettingRef(NamedTuple):
    """One setting of one layer, or of one sound.

    Attributes:
        layer: the id of the layer, or of the sound.
        key: the address of the setting within it.
    """

    layer: str
    key: str

    @property
    def address(self) -> Address:
        """The address of the setting within its layer."""
        return Address(self.key)

    @property
    def jitter(self) -> SettingRef:
        """The amount of the setting's jitter."""
        return SettingRef(self.layer, self.address.jitter)

    def of(self, wrinkle: Wrinkle) -> Setting:
        """The setting in a wrinkle."""
        return wrinkle.owner(self.layer).setting(self.key)

    def spec(self, wrinkle: Wrinkle) -> SettingSpec:
        """The declaration of the setting."""
        return wrinkle.owner(self.layer).spec(self.key)

    def exists(self, wrinkle: Wrinkle) -> bool:
        """Whether a wrinkle has the layer and the setting."""
        owner = next((x for x in wrinkle.owners if x.id == self.layer), None)
        if owner is None or self.address.base not in owner.addresses():
            return False
        return not self.address.is_jitter or owner.setting(self.address.base).jitter is not None
