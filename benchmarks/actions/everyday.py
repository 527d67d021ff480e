"""Each of the wrinkles for every day, built at the window from a new document."""

from __future__ import annotations

from benchmarks.actions.hand import Hand
from benchmarks.actions.pieces import EDGE, OPENS, SHUTS, Files, Piece


def push_up(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.set("position", "0, -100")
    hand.lane("position")
    hand.select("Incoming")
    hand.set("position", "0, 100")
    hand.lane("position")


def zoom_through(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.mask(OPENS)
    hand.pick("mask.inverted", "yes")
    hand.set("scale", "400")
    hand.lane("scale")
    hand.select("Incoming")
    hand.set("scale", "50")
    hand.lane("scale")
    hand.treat("zoom_blur")


def zoom_back(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.mask(SHUTS)
    hand.set("scale", "25")
    hand.lane("scale")
    hand.select("Incoming")
    hand.set("scale", "250")
    hand.lane("scale")
    hand.treat("zoom_blur")


def punch_in(hand: Hand, files: Files) -> None:
    hand.select("Incoming")
    hand.set("scale", "124")
    hand.lane("scale")
    hand.pin("scale", 0, "spring")


def impact(hand: Hand, files: Files) -> None:
    hand.treat("blow", "flash")


def bouncing_slide(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.set("position", "0, 100")
    hand.lane("position")
    hand.pin("position", 0, "bounce")
    hand.select("Incoming")
    hand.set("position", "0, -100")
    hand.lane("position")
    hand.pin("position", 0, "bounce")


def soft_dissolve(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.lane("opacity")
    hand.pick("blend", "as light")


def dip_to_colour(hand: Hand, files: Files) -> None:
    hand.add("Fill")
    hand.lane("opacity")


def speed_ramp(hand: Hand, files: Files) -> None:
    hand.timing("timing.speed", "300")
    hand.lane("timing.speed")
    hand.select("Incoming")
    hand.timing("timing.speed", "300")
    hand.lane("timing.speed")
    hand.treat("zoom_blur")


def passing_object(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.mask(EDGE)
    hand.add("Ellipse")
    hand.effects("gaussian_blur")
    hand.set("position", "-160, 0")
    hand.lane("position")


def torn_paper(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects("torn_paper")


def letters_window(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.add("Words")
    hand.set("scale", "1200")
    hand.lane("scale")
    hand.hide("Words")
    hand.select("Outgoing")
    hand.matte("Words", inverted=True)


def tape_noise(hand: Hand, files: Files) -> None:
    hand.treat("tape")
    hand.set("tape.roll", "1")


def film_slip(hand: Hand, files: Files) -> None:
    hand.treat("film_gate")
    hand.set("film_gate.run", "1")


def smeared_blocks(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects("block_drag")
    hand.look_at("block_drag", "Incoming")


def fold(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.set("anchor", "100, 50")
    hand.set("tilt", "0, -90")
    hand.lane("tilt")
    hand.set("position", "-100, 0")
    hand.lane("position")
    hand.select("Incoming")
    hand.set("anchor", "0, 50")
    hand.set("tilt", "0, 90")
    hand.lane("tilt")
    hand.set("position", "100, 0")
    hand.lane("position")


def door(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.set("anchor", "0, 50")
    hand.set("tilt", "0, 89")
    hand.lane("tilt")
    hand.pick("edge_cover", "bare")
    hand.effects("exposure")


def page_turn(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects("page_turn")


def photo_stack(hand: Hand, files: Files) -> None:
    for frame, turn in ((-8, "-8"), (-4, "6")):
        hand.add("Incoming clip")
        hand.at(frame)
        hand.key("Z")
        hand.set("scale", "62")
        hand.set("rotation", turn)
        hand.lane("opacity")


EVERYDAY = (
    Piece("E01", "push_up", 15, push_up),
    Piece("E02a", "zoom_through", 15, zoom_through),
    Piece("E02b", "zoom_back", 15, zoom_back),
    Piece("E03", "punch_in", 15, punch_in),
    Piece("E04", "impact", 15, impact),
    Piece("E05", "bouncing_slide", 15, bouncing_slide),
    Piece("E06", "soft_dissolve", 15, soft_dissolve),
    Piece("E07", "dip_to_colour", 15, dip_to_colour),
    Piece("E08", "speed_ramp", 15, speed_ramp),
    Piece("E09", "passing_object", 15, passing_object, "the form of a person"),
    Piece("E10", "torn_paper", 15, torn_paper),
    Piece("E11", "letters_window", 15, letters_window, "the rim of the letters"),
    Piece("E12", "photo_stack", 15, photo_stack, "the rims, and the last print that grows"),
    Piece("E13", "film_slip", 15, film_slip, "the burn"),
    Piece("E14", "tape_noise", 15, tape_noise),
    Piece("E15", "smeared_blocks", 15, smeared_blocks),
    Piece("E16a", "fold", 15, fold),
    Piece("E16b", "door", 15, door),
    Piece("E16c", "page_turn", 15, page_turn),
)
