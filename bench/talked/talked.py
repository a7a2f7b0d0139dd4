#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""talked.py JIB ANALYSIS MINUTES FOLDER: a reply that is talked through for so many minutes, with a made-up voice: written by
`jib reply`, held against FFmpeg transcoding what came out with the same settings, weighed, and looked at for picture and
sound running apart: at known seconds the clip jumps to another moment while a clap sounds."""
import json
import math
import pathlib
import random
import re
import struct
import subprocess
import sys
import time
import wave

RATE = 48000


def claps_at(length_s):
    return [3.0, length_s / 2, length_s - 3.0]


def voice(path, length_s):
    """A murmur with claps in it."""
    r = random.Random(7)
    samples, low = [], 0.0
    claps = claps_at(length_s)
    for i in range(int(length_s * RATE)):
        t = i / RATE
        low += 0.02 * (r.uniform(-1, 1) - low)
        murmur = 0.25 * low * (1 + math.sin(2 * math.pi * 2.3 * t))
        clap = next((0.9 * math.exp(-(t - c) / 0.004) for c in claps if 0 <= t - c < 0.03), 0)
        samples.append(int(32000 * max(-1, min(1, murmur + clap * r.uniform(-1, 1)))))
    with wave.open(str(path), "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(RATE)
        out.writeframes(struct.pack(f"<{len(samples)}h", *samples))


def plays(length_s, clip_s):
    """Runs, slow runs and freezes, as somebody does who explains; at each clap a jump from the first to the last frame."""
    r = random.Random(11)
    out, t = [], 0.0
    claps = claps_at(length_s)
    quiet = lambda at: all(abs(at - c) > 1.6 for c in claps)
    while t < length_s:
        if quiet(t):
            out.append({"at_s": round(t, 2), "clip_t": round(r.uniform(0.2, clip_s * 0.6), 2),
                        "rate": r.choice([0, 0, 0.25, 1])})
        t += r.uniform(2, 6)
    for c in claps:
        out.append({"at_s": c - 1.2, "clip_t": 0.0, "rate": 0})
        out.append({"at_s": c, "clip_t": round(clip_s - 0.2, 2), "rate": 0})
    return sorted(out, key=lambda p: p["at_s"])


def jump_near(film, at_s):
    """When the picture changes most within a second of at_s."""
    told = subprocess.run(["ffmpeg", "-v", "error", "-ss", f"{at_s - 0.8:.3f}", "-t", "1.6", "-copyts", "-i", str(film), "-an",
                           "-vf", "select='gte(scene,0)',metadata=print:file=-", "-f", "null", "-"],
                          capture_output=True, text=True).stdout
    times = [float(v) for v in re.findall(r"pts_time:([0-9.]+)", told)]
    scores = [float(v) for v in re.findall(r"scene_score=([0-9.]+)", told)]
    return max(zip(scores[1:], times[1:]))[1]


def clap_near(film, at_s):
    pcm = subprocess.run(["ffmpeg", "-v", "error", "-ss", f"{at_s - 0.8:.3f}", "-t", "1.6", "-i", str(film), "-vn", "-ac", "1", "-ar",
                          str(RATE), "-f", "s16le", "-"], capture_output=True).stdout
    samples = struct.unpack(f"<{len(pcm) // 2}h", pcm)
    loudest = max(range(len(samples)), key=lambda i: abs(samples[i]))
    # The clap begins where it first comes near its loudest.
    first = next(i for i in range(max(0, loudest - RATE // 20), loudest + 1) if abs(samples[i]) > 0.4 * abs(samples[loudest]))
    return at_s - 0.8 + first / RATE


def main():
    jib, analysis, minutes, folder = sys.argv[1], sys.argv[2], float(sys.argv[3]), pathlib.Path(sys.argv[4])
    folder.mkdir(parents=True, exist_ok=True)
    length_s = 60 * minutes
    clip_s = json.loads(pathlib.Path(analysis).read_text())["clip"]["duration_s"]
    voice(folder / "voice.wav", length_s)
    take = {"file": "voice.wav", "chapter": "what's good", "start_s": 0, "plays": plays(length_s, clip_s)}
    (folder / "takes.json").write_text(json.dumps({"takes": [take]}))
    began = time.monotonic()
    subprocess.run([jib, "reply", analysis, "--voice", str(folder / "takes.json"), "--out", str(folder / "reply"), "--max-mb",
                    "25", "--quiet"], check=True)
    own_s = time.monotonic() - began
    film = max((folder / "reply").glob("*.mp4"), key=lambda p: p.stat().st_size)
    weight = sum(p.stat().st_size for p in (folder / "reply").iterdir() if p.suffix in (".mp4", ".html", ".pdf"))
    began = time.monotonic()
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", str(film), "-c:v", "libx264", "-preset", "veryfast", "-crf", "22", "-g", "30",
                    "-c:a", "aac", "-movflags", "+faststart", str(folder / "again.mp4")], check=True)
    ffmpeg_s = time.monotonic() - began
    film_s = float(subprocess.run(["ffprobe", "-v", "error", "-show_entries", "format=duration", "-of", "csv=p=0", str(film)],
                                  capture_output=True, text=True).stdout)
    print(f"talked reply:             {film_s:.1f} s of film for {length_s:.0f} s of voice, {weight / 1e6:.1f} MB with page and PDF")
    print(f"written in:               {own_s:.1f} s = {own_s / ffmpeg_s:.2f} x ffmpeg transcoding it ({ffmpeg_s:.1f} s)")
    for c in claps_at(length_s):
        print(f"picture against clap:     {1000 * (jump_near(film, c) - clap_near(film, c)):+.0f} ms at {c:.0f} s")


if __name__ == "__main__":
    main()
