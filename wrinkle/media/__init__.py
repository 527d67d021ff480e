"""Files in and out: clips and pictures to images, images to video and picture files."""
