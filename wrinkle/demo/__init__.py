"""The demo piece, Tidewind Kite Day: made-up clips, drawn by this program.

Nothing in it is real: no person, place, brand or event.
"""
