"""What is read is not written over, whatever it is called, and nothing is replaced unasked."""

import os

from tests.media.clips import Files
from wrinkle.core.errors import InputError, MediaError
from wrinkle.files.targets import check_target, spare


class Targets(Files):
    def setUp(self) -> None:
        super().setUp()
        self.clip = self.folder / "clip.mp4"
        self.clip.write_bytes(b"footage")

    def test_a_file_is_known_by_every_name(self) -> None:
        soft, hard = self.folder / "soft.mp4", self.folder / "hard.mp4"
        soft.symlink_to(self.clip)
        os.link(self.clip, hard)
        (self.folder / "sub").mkdir()
        round_about = self.folder / "sub" / ".." / "clip.mp4"
        for output in (self.clip, soft, hard, round_about):
            for read in (self.clip, soft):
                with self.subTest(output.name), self.assertRaisesRegex(InputError, "would be read"):
                    spare(output, [read])
        other = self.folder / "other.mp4"
        other.write_bytes(b"footage")
        spare(other, [self.clip, self.folder / "gone.mp4"])
        gone = self.folder / "gone.mp4"
        with self.assertRaisesRegex(InputError, "gone.mp4 is what would be read"):
            # It is not there now; it may be when the other drive is back.
            spare(gone, [gone])

    def test_what_is_there_is_replaced_only_by_agreement(self) -> None:
        goal = self.folder / "goal.mp4"
        check_target(goal, [self.clip])
        dangling = self.folder / "dangling.mp4"
        dangling.symlink_to(goal)
        for there in (dangling, self.folder / "sub"):
            if not there.is_symlink():
                there.mkdir()
            with self.assertRaisesRegex(InputError, "is there already; --overwrite"):
                check_target(there, [])
        goal.write_bytes(b"made")
        check_target(goal, [self.clip], overwrite=True)
        with self.assertRaisesRegex(InputError, "is what would be read"):
            check_target(self.clip, [self.clip], overwrite=True)
        with self.assertRaisesRegex(MediaError, "the folder .* does not exist"):
            check_target(self.folder / "none" / "x.mp4", [])
