#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""handle.py FILM.json FOLDER [KIND...]: what a film has been through before it arrives. Beside a spec lies its film; of both each
kind is written to FOLDER as NAME-KIND.json and NAME-KIND.mp4. Times stay as they were, so the script stays the truth."""
import json
import pathlib
import shutil
import subprocess
import sys

# Bars and controls as a phone's player has them: a clock above, a round knob that moves along a line below.
CONTROLS = (
    "drawbox=x=24:y=20:w=90:h=22:color=white:t=fill,drawbox=x=600:y=20:w=96:h=22:color=white:t=fill,"
    "drawbox=x=40:y=1150:w=640:h=6:color=gray:t=fill,drawbox=x=40:y=1150:w=200:h=6:color=white:t=fill,"
    "drawbox=x=330:y=1190:w=20:h=50:color=white:t=fill,drawbox=x=370:y=1190:w=20:h=50:color=white:t=fill"
)
WRITING = "drawbox=x=180:y=60:w=360:h=60:color=white:t=fill,drawbox=x=120:y=1080:w=480:h=90:color=yellow:t=fill"
UPRIGHT = "scale=720:1280:force_original_aspect_ratio=decrease:force_divisible_by=2"
BLURRED = (
    "split[a][b];[a]scale=720:1280:force_original_aspect_ratio=increase,crop=720:1280,boxblur=24:3[back];"
    f"[b]{UPRIGHT}[front];[back][front]overlay=(W-w)/2:(H-h)/2"
)

KINDS = {
    "as-filmed": "null",
    "halved": "scale=trunc(iw/4)*2:-2,scale=iw:ih",
    "barred": f"{UPRIGHT},pad=720:1280:(ow-iw)/2:(oh-ih)/2:black",
    "blurred": BLURRED,
    "story": f"{BLURRED},{WRITING}",
    "recorded": f"{UPRIGHT},pad=720:1280:(ow-iw)/2:(oh-ih)/2:0x101010,{CONTROLS}",
    "white-app": f"{UPRIGHT},pad=720:1280:(ow-iw)/2:120:white,drawbox=x=40:y=900:w=420:h=24:color=gray:t=fill",
    "faded-in": "fade=in:st=0:d=0.6",
    "dim": "eq=brightness=-0.22:contrast=0.55,noise=alls=10:allf=t",
    "swimming": "eq=brightness='0.09*sin(2*PI*t/2.7)':gamma='1+0.25*sin(2*PI*t/1.9)':eval=frame",
    "mirrored": "hflip",
    "small-copy": "split[a][b];[b]scale=iw/4:-2[c];[a][c]overlay=W-w-12:12",
    "passer-by": "drawbox=x='iw*(t-4)/1.6-iw/8':y=ih*0.2:w=iw/8:h=ih*0.8:color=0x303845:t=fill:enable='between(t,4,5.8)'",
    "zoomed": "scale=w='2*trunc(iw*(1+0.25*clip(t-3.5,0,1))/2)':h=-2:eval=frame,crop={w}:{h}",
    # What an app for cutting films adds: a card before and after the set, a closer look in the middle of it, and another
    # shot of the same gym before it.
    "carded": "drawbox=color=0x20304a:t=fill:enable='lt(t,1.4)',drawbox=x=iw/4:y=ih*0.4:w=iw/2:h=ih*0.1:color=white:t=fill:"
    "enable='lt(t,1.4)',drawbox=color=0x20304a:t=fill:enable='gt(t,{end}-1.2)'",
    "closer": "split[a][b];[b]crop=iw*0.8:ih*0.8:iw*0.12:ih*0.14,scale={w}:{h}[c];[a][c]overlay=enable='gt(t,{end}/2)'",
    "two-shots": "split[a][b];[b]hflip,crop=iw*0.6:ih*0.6,scale={w}:{h}[c];[a][c]overlay=enable='lt(t,1.6)'",
    "screen": "perspective=x0=20:y0=10:x1=W-8:y1=22:x2=8:y2=H-14:x3=W-24:y3=H-6:sense=destination,gblur=1.2,"
    "noise=alls=6:allf=t",
}


def main():
    spec, folder = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
    film = spec.with_suffix(".mp4")
    camera = json.loads(spec.read_text())["camera"]
    seconds = subprocess.run(
        ["ffprobe", "-v", "error", "-show_entries", "format=duration", "-of", "csv=p=0", film], check=True,
        capture_output=True, text=True).stdout.strip()
    only = sys.argv[3:] or list(KINDS)
    for kind, chain in KINDS.items():
        if kind not in only:
            continue
        out = folder / f"{spec.stem}-{kind}.mp4"
        shutil.copy(spec, out.with_suffix(".json"))
        for name, value in (("{w}", camera["width"]), ("{h}", camera["height"]), ("{end}", seconds)):
            chain = chain.replace(name, str(value))
        worse = "30" if kind in ("halved", "story", "recorded", "screen") else "23"
        subprocess.run(
            ["ffmpeg", "-v", "error", "-y", "-i", film, "-filter_complex", chain, "-c:v", "libx264", "-crf", worse,
             "-preset", "veryfast", "-pix_fmt", "yuv420p", "-fps_mode", "passthrough", out], check=True)


main()
