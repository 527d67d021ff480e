"""Pictures and pages that are made at the real window: the manual's, the recipes', the README's."""
