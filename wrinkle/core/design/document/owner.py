"""What has an id and settings that can be lanes: a layer, or a sound."""

from __future__ import annotations

from typing import Self

from msgspec.structs import replace

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.setting import HasSettings, Setting
from wrinkle.core.motion.setting_spec import SettingSpec

Holder = HasSettings | EffectUse
"""A part of an owner that has some of its settings."""


class Owner(HasSettings, frozen=True, kw_only=True):
    """The base of layers and sounds: their settings by their addresses."""

    def setting(self, name: str) -> Setting:
        """The setting at an address, or the amount of its jitter.

        Raises:
            KeyError: there is no such setting.
        """
        address = Address(name)
        holder = self._holder(address)
        found = super().setting(address.name) if holder is self else holder.setting(address.name)
        if not address.is_jitter:
            return found
        if found.jitter is None:
            raise KeyError(name)
        return found.jitter.amount

    def spec(self, name: str) -> SettingSpec:
        """The declaration of the setting at an address, or of the amount of its jitter.

        Raises:
            KeyError: there is no such setting.
        """
        address = Address(name)
        holder = self._holder(address)
        found = super().spec(address.name) if holder is self else holder.spec(address.name)
        return found.of_jitter() if address.is_jitter else found

    def with_setting(self, name: str, setting: Setting) -> Self:
        """The owner with the setting at an address exchanged.

        Raises:
            KeyError: there is no such setting.
        """
        address = Address(name)
        if address.is_jitter:
            whole = self.setting(address.base)
            if whole.jitter is None:
                raise KeyError(name)
            jitter = replace(whole.jitter, amount=setting)
            return self.with_setting(address.base, replace(whole, jitter=jitter))
        holder = self._holder(address)
        if holder is self:
            return super().with_setting(address.name, setting)
        return self._with_holder(address, holder.with_setting(address.name, setting))

    def addresses(self) -> tuple[Address, ...]:
        """The addresses of all settings that it has."""
        raise NotImplementedError

    def lanes(self) -> tuple[Address, ...]:
        """The addresses of the settings that are animated."""
        found = []
        for address in self.addresses():
            setting = self.setting(address)
            if setting.track is not None:
                found.append(address)
            if setting.jitter is not None and setting.jitter.amount.track is not None:
                found.append(address.jitter)
        return tuple(found)

    def _holder(self, address: Address) -> Holder:
        """The part that has a setting."""
        return self

    def _with_holder(self, address: Address, holder: Holder) -> Self:
        """The owner with another part in place of the one that has a setting."""
        raise NotImplementedError
