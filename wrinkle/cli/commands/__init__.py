"""The commands, a module each; the registry one room up knows them all."""
