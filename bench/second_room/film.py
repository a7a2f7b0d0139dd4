#!/usr/bin/env python3
"""A second filming room: lifters ray-traced by POV-Ray, with bodies, clothes, plates, rooms and motion of their own.

It shares nothing with src/core/simulate, so that the tracing can be held against films it was not made with.

    film.py CLIP FOLDER [JOBS]      films one clip of clips.json: FOLDER/CLIP.mp4 and FOLDER/CLIP.truth.json

World: metres, x forward, y to the lifter's left, z up. POV-Ray's is x, up, away: see `pov`.
"""
import json
import math
import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor

PLACED = ("toe", "heel", "ankle", "knee", "hip", "shoulder")
SLEEVE_END = 1.10  # of the bar's end from its middle
STEEL = "pigment { rgb <.6,.62,.65> } finish { diffuse .5 specular .6 roughness .02 }"


def add(a, b):
    return tuple(x + y for x, y in zip(a, b))


def sub(a, b):
    return tuple(x - y for x, y in zip(a, b))


def mul(a, k):
    return tuple(x * k for x in a)


def dot(a, b):
    return sum(x * y for x, y in zip(a, b))


def cross(a, b):
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def unit(a):
    return mul(a, 1 / math.sqrt(dot(a, a)))


def mix(a, b, k):
    return add(mul(a, 1 - k), mul(b, k))


def pov(p):
    return "<%.5f,%.5f,%.5f>" % (p[0], p[2], p[1])


def ease(u):
    u = min(1, max(0, u))
    return u * u * u * (10 - 15 * u + 6 * u * u)


class Camera:
    """A pinhole; azimuth 0 looks at the near side squarely, positive stands further to the lifter's front."""

    def __init__(self, s):
        self.width, self.height = s["size"]
        self.focal = self.width / 2 / math.tan(math.radians(s["fov"]) / 2)
        azimuth, look, away = math.radians(s["azimuth"]), s["look"], s["distance"]
        self.base = add(look, (away * math.sin(azimuth), -away * math.cos(azimuth), s["height"] - look[2]))
        if s["side"] == "left":
            self.base = (self.base[0], -self.base[1], self.base[2])
        self.look = (look[0], look[1], s["height"] + away * math.tan(math.radians(s["tilt"])))
        self.shake, self.roll, self.twist = s.get("shake", 0), s.get("roll", 0), s.get("twist", 0)

    def at(self, t):
        k = self.shake
        sway = (
            math.sin(1.3 * t) + 0.5 * math.sin(4.1 * t + 1),
            0,
            0.7 * math.sin(1.7 * t + 2) + 0.4 * math.sin(5.3 * t),
        )
        self.place = add(self.base, mul(sway, k))
        self.ahead = unit(sub(self.look, self.place))
        self.right = unit(cross(self.ahead, (0, 0, 1)))
        self.up = cross(self.right, self.ahead)
        roll = math.radians(self.roll + self.twist * (math.sin(0.9 * t + 0.5) + 0.4 * math.sin(3.7 * t)))
        c, n = math.cos(roll), math.sin(roll)
        self.right, self.up = add(mul(self.right, c), mul(self.up, n)), sub(mul(self.up, c), mul(self.right, n))
        return self

    def scale(self, p):
        return self.focal / dot(sub(p, self.place), self.ahead)

    def pixel(self, p):
        d, k = sub(p, self.place), self.scale(p)
        return [self.width / 2 + k * dot(d, self.right), self.height / 2 - k * dot(d, self.up)]

    def text(self):
        return "camera { perspective location %s direction %s right %s up %s }\n" % (
            pov(self.place),
            pov(mul(self.ahead, self.focal / self.width)),
            pov(self.right),
            pov(mul(self.up, self.height / self.width)),
        )


class Lifter:
    """Shin and thigh follow given angles; the trunk leans so that the bar stays where it should over the foot."""

    def __init__(self, s):
        self.s = s
        h = s["stature"]
        self.shank, self.thigh, self.trunk = s["shank"] * h, s["thigh"] * h, s["trunk"] * h
        self.foot, self.ankle_height = 0.152 * h, 0.039 * h
        self.reps, t = [], s["stand"]
        for rep in s["reps"]:
            self.reps.append((t, rep))
            t += rep["down"] + rep.get("pause", 0) + rep["up"] + 1.2
        self.end = t + 0.3

    def depth(self, t):
        """How far down (0 to 1), which way (-1, 0, 1), and the rep."""
        for t0, r in self.reps:
            u = t - t0
            if 0 <= u < r["down"]:
                return ease(u / r["down"]), -1, r
            u -= r["down"] + r.get("pause", 0)
            if -r.get("pause", 0) <= u < 0:
                return 1.0, 0, r
            if 0 <= u <= r["up"]:
                w = u / r["up"]
                return 1 - ease(w + r.get("stick", 0) * math.sin(2 * math.pi * w) / (2 * math.pi)), 1, r
        return 0.0, 0, self.reps[0][1]

    def leg(self, y, shin, knee_forward, thigh, heel_lift):
        s = self.s
        flare = math.radians(s["flare"])
        ahead = (math.cos(flare), y * math.sin(flare), 0)
        ankle = (0, y * s["stance"] / 2, self.ankle_height)
        floor = (0, ankle[1], 0)
        toe, heel = add(floor, mul(ahead, 0.75 * self.foot)), add(floor, mul(ahead, -0.25 * self.foot))
        if heel_lift:
            ankle = add(ankle, (0.2 * heel_lift, 0, 0.9 * heel_lift))
            heel = add(heel, (0.1 * heel_lift, 0, heel_lift))
        out = math.asin(min(0.9, s["splay"] * knee_forward / self.shank))
        way = (math.sin(shin) * math.cos(out), y * math.sin(out), math.cos(shin) * math.cos(out))
        knee = add(ankle, mul(way, self.shank))
        hip_y = y * s["hip_half"]
        flat = math.sqrt(self.thigh**2 - (hip_y - knee[1]) ** 2)
        hip = (knee[0] - flat * math.sin(thigh), hip_y, knee[2] + flat * math.cos(thigh))
        return dict(toe=toe, heel=heel, ankle=ankle, knee=knee, hip=hip, ahead=ahead, heel_lift=heel_lift)

    def arm(self, shoulder, wrist, up):
        """Elbow hanging down between shoulder and wrist."""
        upper, lower = 0.172 * self.s["stature"], 0.157 * self.s["stature"]
        d = sub(wrist, shoulder)
        reach = min(math.sqrt(dot(d, d)), upper + lower - 0.005)
        along = (upper**2 - lower**2 + reach**2) / (2 * reach)
        off = math.sqrt(max(1e-6, upper**2 - along**2))
        n = unit(d)
        down = unit(sub(mul(up, -1), mul(n, dot(mul(up, -1), n))))
        return add(shoulder, add(mul(n, along), mul(down, off)))

    def pose(self, t):
        s = self.s
        q, way, rep = self.depth(t)
        q = min(1.0, max(0.0, q))
        lead = rep.get("lead", 0) * math.sin(math.pi * min(1, max(0, (1 - q) / 0.6))) if way > 0 else 0
        forward = 1 - (1 - q) ** s["knee_early"]
        shin = math.radians(s["shin0"] + (s["shin"] - s["shin0"]) * (forward - 0.55 * lead))
        thigh = math.radians(4 + (s["thigh_angle"] * rep.get("depth", 1.0) - 4) * q * (1 - 0.16 * lead))
        heel_lift = rep.get("heel_lift", 0) * max(0, (q - 0.7) / 0.3)
        p = {side: self.leg(y, shin, forward, thigh, heel_lift) for side, y in (("right", -1), ("left", 1))}
        mid_hip = mix(p["left"]["hip"], p["right"]["hip"], 0.5)
        middle_of_foot = (p["right"]["toe"][0] + p["right"]["heel"][0]) / 2
        goal = middle_of_foot + s["bar_off"] + s.get("sway", 0.004) * math.sin(2.1 * t) + rep.get("drift", 0) * q
        low, high = -0.2, 1.4
        for _ in range(50):
            lean = (low + high) / 2
            up, front = (math.sin(lean), 0, math.cos(lean)), (math.cos(lean), 0, -math.sin(lean))
            bar = add(mid_hip, sub(mul(up, s["bar_along"] * self.trunk), mul(front, s["bar_back"])))
            low, high = (lean, high) if bar[0] < goal else (low, lean)
        mid_shoulder = add(mid_hip, mul(up, self.trunk))
        for side, y in (("right", -1), ("left", 1)):
            p[side]["shoulder"] = add(mid_shoulder, (0, y * s["shoulder_half"], 0))
            p[side]["wrist"] = add(bar, (0.01, y * s["grip"], 0))
            p[side]["elbow"] = self.arm(p[side]["shoulder"], p[side]["wrist"], up)
        p.update(mid_hip=mid_hip, mid_shoulder=mid_shoulder, up=up, front=front, bar=bar, lean=lean)
        return p


def limb(a, b, ra, rb=None):
    """Parts of a blob: a limb of about these radii."""
    rb = ra if rb is None else rb
    return "".join(
        "sphere { %s, %.4f, 1 } " % (pov(mix(a, b, i / 9)), (ra + (rb - ra) * i / 9) / 0.606 * 0.74) for i in range(10)
    )


def lump(c, r, strength=1.0):
    return "sphere { %s, %.4f, %.1f } " % (pov(c), r, strength)


def blob(parts, texture):
    return "blob { threshold 0.40 %s texture { %s } }\n" % (parts, texture)


def disc(a, b, r, texture):
    return "cylinder { %s, %s, %.4f texture { %s } }\n" % (pov(a), pov(b), r, texture)


def torus(c, r, thick, texture):
    return "torus { %.4f, %.4f rotate x*90 translate %s texture { %s } }\n" % (r, thick, pov(c), texture)


def sweep(points, texture):
    inner = ", ".join("%s, %.4f" % (pov(p), r) for p, r in points)
    return "sphere_sweep { linear_spline %d, %s texture { %s } }\n" % (len(points), inner, texture)


def plain(colour, finish="diffuse .8"):
    return "pigment { rgb %s } finish { %s }" % (colour, finish)


def cloth(colour):
    return (
        "pigment { granite color_map { [0 rgb %s][1 rgb %s*.75] } scale .12 } normal { wrinkles .5 scale .07 } "
        "finish { diffuse .8 }" % (colour, colour)
    )


def skin_of(s):
    return (
        "pigment { bozo color_map { [0 rgb %s][1 rgb %s*0.9] } scale .05 } normal { bumps .1 scale .02 } "
        "finish { diffuse .75 specular .15 roughness .05 }" % (s["skin"], s["skin"])
    )


def leg_text(leg, s):
    g, hip, knee, ankle = s["girth"], leg["hip"], leg["knee"], leg["ankle"]
    skin, shorts, shoe = skin_of(s), cloth(s["shorts"]), plain(s["shoe"], "diffuse .8 specular .2")
    lower = shorts if s["legs"] == "tights" else skin
    shin_up, thigh_up = unit(sub(knee, ankle)), unit(sub(hip, knee))
    back = unit(sub((-1, 0, 0), mul(shin_up, dot((-1, 0, 0), shin_up))))
    front = unit(sub((1, 0, 0.3), mul(thigh_up, dot((1, 0, 0.3), thigh_up))))
    calf = limb(
        add(mix(ankle, knee, 0.35), mul(back, 0.02 * g)),
        add(mix(ankle, knee, 0.75), mul(back, 0.022 * g)),
        0.044 * g,
        0.05 * g,
    )
    o = blob(
        limb(ankle, mix(ankle, knee, 0.3), 0.036 * g, 0.042 * g)
        + calf
        + limb(mix(ankle, knee, 0.3), knee, 0.044 * g, 0.05 * g)
        + lump(add(knee, mul(front, 0.008)), 0.075 * g, 0.8),
        lower,
    )
    o += blob(
        limb(knee, mix(knee, hip, 0.55), 0.054 * g, 0.078 * g)
        + limb(
            add(mix(knee, hip, 0.2), mul(front, 0.012)),
            add(mix(knee, hip, 0.8), mul(front, 0.012)),
            0.062 * g,
            0.085 * g,
        ),
        lower,
    )
    hem = 0.45 if s["legs"] == "shorts" else 0.3
    o += blob(
        limb(mix(knee, hip, hem), hip, 0.084 * g, 0.108 * g)
        + limb(mix(knee, hip, 0.6), add(hip, mul(front, -0.02)), 0.09 * g, 0.105 * g),
        shorts,
    )
    ahead, heel, toe = leg["ahead"], leg["heel"], leg["toe"]
    heel_ball = add(heel, add(mul(ahead, 0.035), (0, 0, 0.036)))
    toe_ball = add(toe, add(mul(ahead, -0.03), (0, 0, 0.028)))
    middle = add(mix(heel_ball, toe_ball, 0.6), (0, 0, -0.2 * leg["heel_lift"]))
    o += sweep([(heel_ball, 0.035), (middle, 0.038), (toe_ball, 0.029)], shoe)
    o += sweep([(add(heel_ball, (0, 0, 0.02)), 0.036), (add(ankle, (0, 0, 0.015)), 0.042)], shoe)
    sole = [
        (add(heel, add(mul(ahead, 0.02), (0, 0, 0.012))), 0.012),
        (add(toe, add(mul(ahead, -0.06), (0, 0, 0.012))), 0.012),
    ]
    return o + sweep(sole, plain(s["sole"]))


def arm_text(limbs, s):
    g, shoulder, elbow, wrist = s["girth"], limbs["shoulder"], limbs["elbow"], limbs["wrist"]
    o = blob(
        limb(mix(shoulder, elbow, 0.35), elbow, 0.047 * g, 0.04 * g)
        + limb(elbow, wrist, 0.042 * g, 0.028 * g)
        + limb(wrist, add(wrist, (0, 0, 0.03)), 0.036, 0.04),
        skin_of(s),
    )
    return o + blob(limb(shoulder, mix(shoulder, elbow, 0.5), 0.068 * g, 0.06 * g), cloth(s["shirt"]))


def trunk_text(p, s):
    g, up, front, hip, shoulder = s["girth"], p["up"], p["front"], p["mid_hip"], p["mid_shoulder"]
    trunk = pelvis = ""
    for y in (-1, 1):
        h, c = s["hip_half"] * 0.75, s["shoulder_half"] * 0.62
        pelvis += limb(
            add(hip, (0, y * h, -0.02)), add(add(hip, (0, y * h * 0.9, 0)), mul(up, 0.10)), 0.108 * g, 0.1 * g
        )
        pelvis += lump(add(add(hip, (0, y * h, 0)), add(mul(front, -0.05), mul(up, -0.02))), 0.155 * g)
        belly = add((0, y * h * 0.9, 0), mul(front, 0.015 * s["belly"]))
        trunk += limb(add(add(hip, mul(up, 0.10)), (0, y * h * 0.85, 0)), add(add(hip, mul(up, 0.24)), belly), 0.1 * g)
        trunk += limb(
            add(add(hip, mul(up, 0.26)), (0, y * c * 0.8, 0)),
            add(shoulder, add((0, y * c, 0), mul(up, -0.08))),
            0.105 * g,
            0.1 * g,
        )
        trunk += limb(
            add(shoulder, (0, y * c * 0.5, 0)),
            add(shoulder, (0, y * s["shoulder_half"] * 0.95, -0.01)),
            0.062 * g,
            0.066 * g,
        )
    return blob(pelvis, cloth(s["shorts"])) + blob(trunk, cloth(s["shirt"]))


def head_text(p, s):
    shoulder, up, skin = p["mid_shoulder"], p["up"], skin_of(s)
    gaze = math.radians(s["gaze"])
    neck = unit(add(up, (0.12, 0, 0.5)))
    o = blob(limb(add(shoulder, mul(up, -0.02)), add(shoulder, mul(neck, 0.11)), 0.056, 0.054), skin)
    head = add(shoulder, add(mul(neck, 0.20), (0.02, 0, 0)))
    face = unit((math.cos(gaze), 0, math.sin(gaze) * -0.4))
    o += blob(
        lump(add(head, (0, 0, 0.02)), 0.155)
        + lump(add(head, add(mul(face, 0.035), (0, 0, -0.045))), 0.125)
        + lump(add(head, add(mul(face, 0.085), (0, 0, -0.025))), 0.07, 0.8),
        skin,
    )
    hair = "pigment { granite color_map { [0 rgb %s][1 rgb %s*.5] } scale .03 } normal { granite .8 scale .05 }" % (
        s["hair"],
        s["hair"],
    )
    o += blob(
        lump(add(head, add(mul(face, -0.022), (0, 0, 0.042))), 0.165)
        + lump(add(head, add(mul(face, -0.05), (0, 0, -0.01))), 0.13),
        hair,
    )
    for y in (-1, 1):
        ear = pov(add(head, (-0.005, y * 0.083, -0.01)))
        o += "sphere { 0, .028 scale <.6,1.1,.4> translate %s texture { %s } }\n" % (ear, skin)
        eye = add(head, add(mul(face, 0.082), (0, y * 0.032, 0.012)))
        o += "sphere { %s, .012 texture { %s } }\n" % (pov(eye), plain(0.05))
    return o


def body_text(p, s):
    o = trunk_text(p, s) + head_text(p, s)
    for side in ("right", "left"):
        o += leg_text(p[side], s) + arm_text(p[side], s)
    return o


def plate_text(at, y, x, radius, thick, colour, s):
    """One plate, its inner face at x from the bar's middle: rubber, a rounded rim, a lip, a steel hub, letters."""
    rubber = (
        "pigment { rgb %s } normal { bumps .15 scale .01 } finish { diffuse .75 specular .12 roughness .1 }" % colour
    )
    inner, outer = at(y * x), at(y * (x + thick))
    o = disc(inner, outer, radius - 0.004, rubber)
    o += torus(at(y * (x + thick - 0.006)), radius - 0.006, 0.006, rubber)
    if radius <= 0.15:
        return o
    o += torus(outer, radius * 0.78, 0.006, plain("%s*.6" % colour, "diffuse .7"))
    o += disc(inner, at(y * (x + thick + 0.002)), 0.055, STEEL)
    marks = s.get("marks", 6)
    for k in range(marks):
        a = 2 * math.pi * k / marks + s["spin"]
        mark = add(outer, (math.cos(a) * radius * 0.55, 0, math.sin(a) * radius * 0.55))
        o += "box { <-.03,-.012,-.002>, <.03,.012,.002> rotate z*%.2f translate %s texture { %s } }\n" % (
            math.degrees(a) + 90,
            pov(mark),
            plain(0.9),
        )
    return o


def bar_text(p, s):
    def at(y):
        return add(p["bar"], (0, y, 0))

    o = disc(at(-0.66), at(0.66), 0.014, STEEL)
    for y in (-1, 1):
        o += disc(at(y * 0.655), at(y * SLEEVE_END), 0.025, STEEL) + disc(at(y * 0.64), at(y * 0.665), 0.037, STEEL)
        x = 0.667
        for radius, thick, colour in s["plates"]:
            o += plate_text(at, y, x, radius, thick, colour, s)
            x += thick + 0.001
        o += disc(at(y * x), at(y * (x + 0.05)), 0.045, plain("<.1,.1,.1>", "specular .3"))
    return o


def box(a, b, texture):
    return "box { %s, %s texture { %s } }\n" % (pov(a), pov(b), texture)


def room_text(s):
    near = -1 if s["side"] == "right" else 1  # the y of the camera's side
    far = -near

    def lamp(place, strength, more=""):
        x, z, y = (float(v) for v in place.split(","))
        return "light_source { %s rgb %.2f %s }\n" % (pov((x, y * -near, z)), strength * s["bright"], more)

    o = "global_settings { assumed_gamma 2.2 max_trace_level 3 }\n"
    o += lamp(s["light"], 0.95) + lamp(s["fill"], 0.45, "shadowless")
    o += "#default { finish { ambient %.3f diffuse .7 } }\n" % (0.22 * s["bright"])
    o += "plane { y, 0 texture { pigment { %s } } }\n" % s["floor"]
    o += "plane { y, 3.4 texture { pigment { rgb .5 } } }\n"
    o += box((-9, far * 2.6, -0.1), (9, far * 2.8, 4), s["wall"])
    for x in (-4.2, 5.5):
        o += box((x, -6, 0), (x + 0.1, 6, 4), "pigment { rgb <.5,.5,.48> }")
    post, x0, deep = plain(s["rack"], "diffuse .7 specular .2"), s["rack_x"], 0.9
    for y in (-0.6, 0.6):
        for x in (x0, x0 + deep):
            o += box((x, y - 0.035, 0), (x + 0.07, y + 0.035, 2.3), post)
        o += box((x0, y - 0.035, 2.2), (x0 + deep, y + 0.035, 2.28), post)
    for x, z, r, colour in s["stored"]:
        for y in (-1, 1):
            o += disc((x, y * 0.62, z), (x, y * 0.7, z), r, plain(colour, "diffuse .7"))
        o += disc((x, -0.6, z), (x, -0.78, z), 0.03, plain(0.7, "diffuse .7"))
    for x, z, w, h, pigment in s["posters"]:
        o += box((x, far * 2.57, z), (x + w, far * 2.61, z + h), "pigment { %s }" % pigment)
    return o


def angle_between(a, b):
    """Included angle of two limbs in the sagittal plane; 180 is straight."""
    cos = (a[0] * b[0] + a[2] * b[2]) / math.hypot(a[0], a[2]) / math.hypot(b[0], b[2])
    return 180 - math.degrees(math.acos(max(-1, min(1, cos))))


def truth_of(t, p, camera, s):
    near = p[s["side"]]
    end = add(p["bar"], (0, SLEEVE_END * (-1 if s["side"] == "right" else 1), 0))
    shin, thigh = sub(near["knee"], near["ankle"]), sub(near["hip"], near["knee"])
    thigh_deg, lean_deg = math.degrees(math.atan2(thigh[0], thigh[2])), math.degrees(p["lean"])
    points = {k: near[k] for k in PLACED}
    points["bar"] = end
    return dict(
        t=t,
        points={k: camera.pixel(v) for k, v in points.items()},
        px_per_m={k: camera.scale(v) for k, v in points.items()},
        shin=math.degrees(math.atan2(shin[0], shin[2])),
        thigh=thigh_deg,
        torso=lean_deg,
        knee=angle_between(shin, thigh),
        hip=180 - abs(lean_deg - thigh_deg),
        bar_to_midfoot_m=p["bar"][0] - (near["toe"][0] + near["heel"][0]) / 2,
    )


def shoot(job):
    """One frame; `file` without its ending. A frame that is there already is not rendered again."""
    file, scene, s = job
    with open(file + ".pov", "w") as out:
        out.write(scene)
    size = ["+W%d" % s["size"][0], "+H%d" % s["size"][1]]
    quality = ["+FN8", "+A0.3", "+AM2", "+R1", "-D", "+WT1", "-GA"]
    done = subprocess.run(
        ["povray", file + ".pov", "+O" + file + ".tmp.png"] + size + quality, capture_output=True, text=True
    )
    if done.returncode:
        sys.exit(done.stderr[-2000:])
    os.rename(file + ".tmp.png", file + ".png")
    os.remove(file + ".pov")


def truth_begun(lifter, s):
    """A truth file without its frames."""
    reps = []
    for t0, r in lifter.reps:
        pause = r.get("pause", 0)
        reps.append(dict(start=t0, bottom=t0 + r["down"] + pause / 2, end=t0 + r["down"] + pause + r["up"]))
    return dict(fps=s["fps"], size=s["size"], frames=[], reps=reps)


def finished(name, folder, truth, encode):
    """Writes the truth and makes the film of the frames."""
    with open(os.path.join(folder, name + ".truth.json"), "w") as out:
        json.dump(truth, out)
    source = ["-framerate", str(truth["fps"]), "-i", os.path.join(folder, name, "f%04d.png")]
    encode = encode + ["-c:v", "libx264", "-pix_fmt", "yuv420p", os.path.join(folder, name + ".mp4")]
    subprocess.run(["ffmpeg", "-y", "-loglevel", "error"] + source + encode, check=True)


def film(name, folder, jobs):
    with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "clips.json")) as file:
        specs = json.load(file)
    s = {**specs["every clip"], **specs["clips"][name]}
    lifter, camera, room = Lifter(s), Camera(s), room_text(s)
    frames = os.path.join(folder, name)
    os.makedirs(frames, exist_ok=True)
    truth = truth_begun(lifter, s)
    todo = []
    for i in range(int(lifter.end * s["fps"])):
        t = i / s["fps"]
        p = lifter.pose(t)
        camera.at(t)
        truth["frames"].append(truth_of(t, p, camera, s))
        file = os.path.join(frames, "f%04d" % i)
        if not os.path.exists(file + ".png"):
            body = body_text(p, s) + bar_text(p, s)
            for place in s.get("bystanders", []):
                standing, there = body_text(lifter.pose(0), s), pov(place[:2] + [0])
                body += "union { %s rotate y*%d translate %s }\n" % (standing, place[2], there)
            todo.append((file, camera.text() + room + body, s))
    with ThreadPoolExecutor(jobs) as pool:
        list(pool.map(shoot, todo))
    finished(name, folder, truth, ["-vf", "noise=alls=5:allf=t", "-crf", "24"])


if __name__ == "__main__":
    film(sys.argv[1], sys.argv[2], int(sys.argv[3]) if len(sys.argv) > 3 else 1)
