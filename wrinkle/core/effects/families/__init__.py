"""The effects themselves, a module for each family; what they are made with stands one room up."""
