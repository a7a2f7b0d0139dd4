#!/usr/bin/env python3
"""Damaged and odd films, seeded: films.py SEED_CLIP OUT_FOLDER [COUNT] [SEED].

Containers, codecs, cuts, flipped bytes, sizes, rates, rotations, stills, sound only, and things that only call
themselves films. Made from one whole clip with ffmpeg; the same seed makes the same films."""
import os
import random
import subprocess
import sys


def ffmpeg(*arguments):
    done = subprocess.run(["ffmpeg", "-v", "error", "-y", *map(str, arguments)], capture_output=True)
    return done.returncode == 0


def sources(clip, work):
    """Whole films of different kinds: name, path."""
    small = ["-t", "2.5", "-i", clip]
    wanted = {
        "plain.mp4": [*small, "-c", "copy"],
        "faststart.mp4": [*small, "-c", "copy", "-movflags", "+faststart"],
        "fragmented.mp4": [*small, "-c", "copy", "-movflags", "+frag_keyframe+empty_moov"],
        "plain.mov": [*small, "-c", "copy"],
        "plain.mkv": [*small, "-c", "copy"],
        "plain.ts": [*small, "-c", "copy", "-bsf:v", "h264_mp4toannexb"],
        "plain.flv": [*small, "-c", "copy"],
        "vp8.webm": [*small, "-an", "-c:v", "libvpx", "-b:v", "300k", "-deadline", "realtime"],
        "mpeg4.avi": [*small, "-an", "-c:v", "mpeg4", "-q:v", "6"],
        "mjpeg.mov": [*small, "-an", "-c:v", "mjpeg", "-q:v", "6", "-pix_fmt", "yuvj420p"],
        "mjpeg.avi": [*small, "-an", "-c:v", "mjpeg", "-q:v", "6", "-pix_fmt", "yuvj420p"],
        "mpeg2.mpg": [*small, "-an", "-c:v", "mpeg2video", "-q:v", "6"],
        "h263.3gp": [*small, "-an", "-c:v", "h263", "-s", "352x288"],
        "hevc.mp4": [*small, "-an", "-c:v", "libx265", "-preset", "ultrafast", "-x265-params", "log-level=none"],
        "tenbit.mp4": [*small, "-an", "-c:v", "libx264", "-pix_fmt", "yuv420p10le", "-preset", "ultrafast"],
        "full.mp4": [*small, "-an", "-c:v", "libx264", "-pix_fmt", "yuv444p", "-preset", "ultrafast"],
        "odd.mp4": [*small, "-an", "-vf", "crop=317:239:0:0", "-c:v", "libx264", "-pix_fmt", "yuv444p", "-preset", "ultrafast"],
        "tiny.mp4": [*small, "-an", "-vf", "scale=16:16", "-c:v", "libx264", "-preset", "ultrafast"],
        "wide.mp4": [*small, "-an", "-vf", "scale=2000:16", "-c:v", "libx264", "-preset", "ultrafast"],
        "tall.mp4": [*small, "-an", "-vf", "scale=16:2000", "-c:v", "libx264", "-preset", "ultrafast"],
        "slow.mp4": [*small, "-an", "-r", "2", "-c:v", "libx264", "-preset", "ultrafast"],
        "fast.mp4": [*small, "-an", "-vf", "fps=240", "-c:v", "libx264", "-preset", "ultrafast"],
        "variable.mp4": [*small, "-an", "-vf", "select='not(mod(n,3))+not(mod(n,5))'", "-vsync", "vfr", "-c:v", "libx264", "-preset", "ultrafast"],
        "squeezed.mp4": [*small, "-an", "-vf", "setsar=9/16", "-c:v", "libx264", "-preset", "ultrafast"],
        "turned.mp4": [*small, "-c", "copy", "-metadata:s:v:0", "rotate=90"],
        "headlong.mp4": [*small, "-c", "copy", "-metadata:s:v:0", "rotate=180"],
        "one.mp4": ["-i", clip, "-an", "-frames:v", "1", "-c:v", "libx264", "-preset", "ultrafast"],
        "two.mp4": ["-i", clip, "-an", "-frames:v", "2", "-c:v", "libx264", "-preset", "ultrafast"],
        "black.mp4": ["-f", "lavfi", "-i", "color=black:s=320x240:d=1", "-c:v", "libx264", "-preset", "ultrafast"],
        "noise.mp4": ["-f", "lavfi", "-i", "nullsrc=s=320x240:d=1,geq=random(1)*255:128:128", "-c:v", "libx264", "-preset", "ultrafast"],
        "sound.mp4": ["-f", "lavfi", "-i", "sine=d=1", "-c:a", "aac"],
        "sound.mov": ["-f", "lavfi", "-i", "sine=d=1", "-c:a", "pcm_s16le"],
        "still.jpg": ["-i", clip, "-frames:v", "1", "-q:v", "4"],
        "still.png": ["-i", clip, "-frames:v", "1"],
        "moving.gif": ["-t", "1", "-i", clip, "-vf", "scale=160:-1,fps=8"],
    }
    made = []
    for name, arguments in wanted.items():
        path = os.path.join(work, name)
        if os.path.exists(path) or ffmpeg(*arguments, path):
            made.append((name, open(path, "rb").read()))
    return made


def liars():
    """What calls itself a film and is none."""
    return [
        ("empty.mp4", b""),
        ("letters.mp4", b"Dear coach, this is no film.\n" * 40),
        ("zeros.mp4", bytes(5000)),
        ("list.mp4", b"#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n"),
        ("concat.mp4", b"ffconcat version 1.0\nfile /etc/passwd\n"),
        ("head.mp4", b"\x00\x00\x00\x18ftypmp42\x00\x00\x00\x00mp42isom"),
        ("huge-box.mp4", b"\x00\x00\x00\x18ftypmp42\x00\x00\x00\x00mp42isom\xff\xff\xff\xffmoov" + b"\x41" * 400),
        ("page.mov", b"<html><body>404</body></html>"),
        ("zip.mp4", b"PK\x03\x04" + b"\x00" * 60),
        ("riff.avi", b"RIFF\xff\xff\xff\xffAVI LIST" + b"\x00" * 200),
    ]


def mutated(data, rng):
    data = bytearray(data)
    way = rng.randrange(7)
    if way == 0:  # cut anywhere
        return bytes(data[: rng.randrange(1, max(2, len(data)))])
    if way == 1:  # cut early, as a faststart film on a bad line
        return bytes(data[: max(1, int(len(data) * rng.uniform(0.01, 0.27)))])
    if way == 2:  # flipped bits
        for _ in range(rng.randrange(1, 60)):
            data[rng.randrange(len(data))] ^= 1 << rng.randrange(8)
    elif way == 3:  # in the tables at either end
        for _ in range(rng.randrange(1, 20)):
            span = min(len(data), 2000)
            at = rng.randrange(span) if rng.random() < 0.5 else len(data) - 1 - rng.randrange(span)
            data[at] = rng.randrange(256)
    elif way == 4:  # a stretch gone
        at = rng.randrange(len(data))
        del data[at : at + rng.randrange(1, 4000)]
    elif way == 5:  # a stretch blank
        at = rng.randrange(len(data))
        n = min(rng.randrange(1, 4000), len(data) - at)
        data[at : at + n] = bytes(n)
    else:  # two films in one
        at = rng.randrange(len(data))
        data[at:at] = data[: rng.randrange(1, 5000)]
    return bytes(data)


def main():
    clip, out = sys.argv[1], sys.argv[2]
    count = int(sys.argv[3]) if len(sys.argv) > 3 else 300
    rng = random.Random(int(sys.argv[4]) if len(sys.argv) > 4 else 20261127)
    work = os.path.join(out, "whole")
    os.makedirs(work, exist_ok=True)
    os.makedirs(os.path.join(out, "films"), exist_ok=True)
    whole = sources(clip, work)
    films = whole + liars()
    while len(films) < count:
        name, data = rng.choice(whole)
        films.append((name, mutated(data, rng)))
    for number, (name, data) in enumerate(films[:count]):
        with open(os.path.join(out, "films", f"{number:03d}-{name}"), "wb") as file:
            file.write(data)
    print(len(films[:count]), "films")


main()
