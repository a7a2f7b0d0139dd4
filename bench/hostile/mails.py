#!/usr/bin/env python3
"""Strange mails, seeded: mails.py CLIP OUT_MAILDIR [COUNT] [SEED].

What mail programs of every temper send, and what goes wrong on the way: encodings, alternatives, answers between and
below quotes, headers missing, twice, endless or forged, one Message-ID for two messages, mixed line endings, nested
parts, odd names, archives with odd names, bombs, films that are none. The same seed makes the same mails."""
import base64
import io
import os
import random
import sys
import zipfile


def b64(data, ending="\r\n"):
    text = base64.b64encode(data).decode()
    return ending.join(text[i : i + 76] for i in range(0, len(text), 76)) + ending


def zipped(entries, flag_names=True):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in entries:
            archive.writestr(name, data)
    return out.getvalue()


class Maker:
    def __init__(self, clip, rng):
        self.film = open(clip, "rb").read()
        self.rng = rng
        self.n = 0

    def fresh_film(self):
        self.n += 1
        return self.film + b"\0" * self.n  # another film for its hash, the same for a player

    def head(self, **over):
        self.n += 1
        fields = {
            "From": f"Athlete {self.n % 23} <a{self.n % 23}@tide.invalid>",
            "To": "coach@reef-barbell.invalid",
            "Subject": self.rng.choice(["squat", "Re: your last cue", "=?utf-8?B?S25pZWJldWdl?=", "", "clip"]),
            "Message-ID": f"<m{self.n}@tide.invalid>",
            "Date": "Fri, 20 Nov 2026 18:04:00 +0100",
            "MIME-Version": "1.0",
        }
        fields.update(over)
        return "".join(f"{k}: {v}\r\n" for k, v in fields.items() if v is not None)

    def text(self, words, kind="plain", charset="utf-8", encoding="8bit"):
        return f"Content-Type: text/{kind}; charset={charset}\r\nContent-Transfer-Encoding: {encoding}\r\n\r\n{words}\r\n"

    def attach(self, name, data, kind="video/mp4", ending="\r\n"):
        named = f'; name="{name}"' if name else ""
        return (f"Content-Type: {kind}{named}\r\nContent-Transfer-Encoding: base64\r\n"
                f"Content-Disposition: attachment\r\n\r\n" + b64(data, ending))

    def multi(self, parts, kind="mixed", edge=None):
        self.n += 1
        edge = edge or f"=_edge{self.n}"
        body = "".join(f"--{edge}\r\n{p}\r\n" for p in parts)
        return f'Content-Type: multipart/{kind}; boundary="{edge}"\r\n\r\n{body}--{edge}--\r\n'

    def words(self):
        return self.rng.choice([
            "Squat 140 kg x 3 @8, is my depth ok?",
            "bench press 100 for 3",
            "Deadlift 180 x 3, how is my back?",
            "My left knee hurts badly. Please call me.",
            "Thank you, that helped a lot!",
            "On Fri, Coach wrote:\r\n> How was it?\r\n\r\nBelow: my hip hurts.\r\n> And Monday?\r\nFine.",
            "Great.\r\n\r\nOn Fri, Coach wrote:\r\nHow was it?\r\nMy shoulder is sore.",
            "Here: https://share.invalid/v/abc and https://share.invalid/v/def",
            "From my side all is well.\r\nFrom: the hole it was slow.\r\n>From quoted",
            "",
            "120 kg x 5 \N{SMILING FACE WITH OPEN MOUTH} \u202eback to front\u202c",
        ])

    def one(self):
        kinds = [getattr(self, name) for name in sorted(dir(self)) if name.startswith("mail_")]
        return self.rng.choice(kinds)()

    def mail_plain(self):
        return self.head() + self.text(self.words())

    def mail_film(self):
        return self.head() + self.multi([self.text(self.words()), self.attach("set.mp4", self.fresh_film())])

    def mail_many(self):
        return self.head() + self.multi([self.text(self.words())] + [self.attach(f"s{i}.mov", self.fresh_film()) for i in range(4)]
                                        + [self.attach("plan.pdf", b"%PDF-1.4", "application/pdf"), self.attach("me.jpg", b"\xff\xd8\xff", "image/jpeg")])

    def mail_html(self):
        page = "<html><body>" + "<div>" * self.rng.choice([3, 300, 2000]) + "<p>Low bar 150&nbsp;kg for 2, my knee hurts</p><blockquote>old</blockquote></body></html>"
        return self.head() + self.multi([self.multi([self.text(""), self.text(page, "html")], "alternative"), self.attach("a.mp4", self.fresh_film())])

    def mail_page_only(self):
        return self.head() + self.text("<p>only a page: squat 100 kg</p>", "html")

    def mail_mixed_endings(self):
        return self.head() + self.multi([self.text("squat 90 kg"), self.attach("lf.mp4", self.fresh_film(), ending="\n")])

    def mail_no_id(self):
        return self.head(**{"Message-ID": None}) + self.text(self.words())

    def mail_same_id(self):
        return self.head(**{"Message-ID": "<same@tide.invalid>"}) + self.multi([self.text(self.words()), self.attach("a.mp4", self.fresh_film())])

    def mail_headless(self):
        return "From: pim@tide.invalid\r\n\r\nsquat 60kg x 5"

    def mail_nobody(self):
        return self.head(From=None) + self.text("who am I?")

    def mail_evil_names(self):
        name = self.rng.choice(["../../etc/evil.mp4", "a:b*c?.mp4", "CON.mp4", ".mp4", "x" * 300 + ".mp4", "a." + "e" * 250,
                                "\u202egnp.exe.mp4", "film", "a\tb.mp4", "12:30.mp4", "it's \u00fcber.MOV"])
        return self.head() + self.multi([self.text("70 kg x 2"), self.attach(name, self.fresh_film())])

    def mail_forged(self):
        return self.head(Subject="x\r\nBcc: all@world.invalid", From='"\x1b[31mred\x1b[0m" <red@tide.invalid>') + self.text(self.words())

    def mail_long_header(self):
        return self.head(**{"X-Long": "y" * self.rng.choice([1000, 100000, 2000000])}) + self.text(self.words())

    def mail_nested(self):
        part = self.text(self.words())
        for _ in range(self.rng.choice([5, 60, 1000])):
            part = self.multi([part])
        return self.head() + part

    def mail_forwarded(self):
        inner = self.head() + self.multi([self.text("inner 62.5kg x 6"), self.attach("in.mp4", self.fresh_film())])
        return self.head() + self.multi([self.text("forwarding"), "Content-Type: message/rfc822\r\n\r\n" + inner])

    def mail_zip(self):
        entries = [("a/\u00fcbung.mp4", self.fresh_film()), ("__MACOSX/a/._\u00fcbung.mp4", b"\0\5\26\7"), ("notes.txt", b"x")]
        return self.head() + self.multi([self.text("deadlift 180kg"), self.attach("clips.zip", zipped(entries), "application/zip")])

    def mail_bomb(self):
        entries = [(f"{i}.mp4", bytes(40_000_000)) for i in range(3)]
        return self.head() + self.multi([self.text("boom"), self.attach("bomb.zip", zipped(entries), "application/zip")])

    def mail_bad_zip(self):
        return self.head() + self.multi([self.text("squat 100"), self.attach("c.zip", b"PK\x03\x04 no archive", "application/zip")])

    def mail_empty_film(self):
        return self.head() + self.multi([self.text("squat 95kg x 3"), self.attach("e.mp4", b"")])

    def mail_cut(self):
        whole = self.mail_film()
        return whole[: self.rng.randrange(50, len(whole))]

    def mail_answer(self):
        return self.head(**{"In-Reply-To": f"<m{self.rng.randrange(1, 400)}@tide.invalid>"}) + self.text(self.words())

    def mail_charset(self):
        return self.head() + self.text("F=FChlt sich gut an, 132,5 kg x 4, mein Knie schmerzt", "plain", self.rng.choice(["iso-8859-1", "klingon", "utf-16"]), "quoted-printable")

    def mail_noise(self):
        return "".join(chr(self.rng.randrange(1, 256)) for _ in range(self.rng.randrange(0, 4000)))


def main():
    clip, out = sys.argv[1], sys.argv[2]
    count = int(sys.argv[3]) if len(sys.argv) > 3 else 200
    maker = Maker(clip, random.Random(int(sys.argv[4]) if len(sys.argv) > 4 else 20261127))
    for part in ("new", "cur", "tmp"):
        os.makedirs(os.path.join(out, part), exist_ok=True)
    for number in range(count):
        # Each kind once, then any.
        kinds = [getattr(maker, name) for name in sorted(dir(maker)) if name.startswith("mail_")]
        mail = kinds[number]() if number < len(kinds) else maker.one()
        with open(os.path.join(out, "new", f"{number:04d}"), "wb") as file:
            file.write(mail.encode("utf-8", "surrogateescape"))
    print(count, "mails")


main()
