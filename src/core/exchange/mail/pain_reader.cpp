// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/pain_reader.h"

#include <algorithm>

namespace jib::exchange {
namespace {

// Joints and what lies at them: of these "sore", "fried" and "off" mean harm.
const Words kJoints{"shoulder", "shoulders",   "knee",    "knees",    "back",    "hip",      "hips",    "elbow",
                    "elbows",   "wrist",       "wrists",  "neck",     "ankle",   "ankles",   "groin",   "spine",
                    "lumbar",   "disc",        "disk",    "tailbone", "si",      "joint",    "joints",  "tendon",
                    "tendons",  "achilles",    "kneecap", "cuff",     "labrum",  "meniscus", "patella", "patellar",
                    "rib",      "ribs",        "thumb",   "finger",   "fingers", "toe",      "foot",    "feet",
                    "shin",     "shins",       "hammy",   "adductor", "pec",     "pecs",     "calf",    "flexor",
                    "flexors",  "intercostal", "psoas",   "heel",     "jaw",     "hand",     "hands",   "sacrum",
                    "clavicle", "collarbone",  "forearm", "forearms"};
// Muscles: tired and sore after work, as they should be; harm needs a plainer word.
const Words kMuscles{"quad", "quads", "hamstring", "hamstrings", "glute",     "glutes",  "lat",   "lats",
                     "trap", "traps", "bicep",     "biceps",     "tricep",    "triceps", "chest", "legs",
                     "leg",  "arm",   "arms",      "calves",     "adductors", "abs",     "ab",    "oblique",
                     "delt", "delts", "armpit",    "belly",      "hammies",   "head",    "muscle"};
// They say it by themselves.
const Words kPlain{
    "hurts",     "hurt",         "hurting",      "pain",         "pains",      "painful",     "aches",
    "ache",      "aching",       "achy",         "injury",       "injured",    "injuries",    "strain",
    "strained",  "tendinitis",   "tendonitis",   "tendinopathy", "surgery",    "physio",      "torn",
    "sprain",    "sprained",     "sciatica",     "bursitis",     "arthritis",  "spasm",       "spasms",
    "spasming",  "spasmed",      "niggle",       "niggles",      "niggly",     "niggling",    "twinge",
    "twinges",   "twinged",      "inflamed",     "inflammation", "swollen",    "swelling",    "hernia",
    "herniated", "dislocated",   "subluxed",     "discomfort",   "limping",    "limped",      "hobbling",
    "ouch",      "ow",           "owie",         "tingling",     "tingles",    "tingly",      "numb",
    "numbness",  "impingement",  "impinged",     "fracture",     "fractured",  "rehab",       "rehabbing",
    "chiro",     "chiropractor", "ibuprofen",    "advil",        "painkiller", "painkillers", "wince",
    "wincing",   "winced",       "mri",          "cramp",        "cramped",    "cramping",    "cramps",
    "ruptured",  "sore",         "soreness",     "swelled",      "swells",     "ortho",       "cortisone",
    "xray",      "unstable",     "excruciating", "agony",        "throbbing",  "throbs"};
// They say it behind the part: "my hip is bugging me".
const Words kBehind{"bugging",   "bothering",  "bother",  "bothers",   "bugs",     "barking",    "screaming",
                    "grumbling", "grumpy",     "cranky",  "angry",     "pissed",   "unhappy",    "complaining",
                    "killing",   "clicking",   "clicks",  "crunching", "crunchy",  "crunches",   "grinds",
                    "catches",   "catching",   "buckled", "stings",    "stinging", "stung",      "burns",
                    "burning",   "hates",      "hate",    "pinches",   "pinching", "pinchy",     "tender",
                    "touchy",    "irritated",  "tweaky",  "tweaked",   "seized",   "pinched",    "kill",
                    "kills",     "aggravates", "snapped", "nagging",   "yelling",  "protesting", "aggravated",
                    "stabbing"};
// Tired words and odd feelings: harm when said of a joint that is, feels or got so.
const Words kFeels{"off",    "weird", "funny",         "wonky",  "funky",  "sketchy", "dodgy",   "iffy",
                   "bad",    "fried", "toast",         "shot",   "cooked", "wrecked", "trashed", "busted",
                   "jacked", "mad",   "stiff",         "messed", "jammed", "wrong",   "rough",   "terrible",
                   "awful",  "gimpy", "uncomfortable", "broken", "beat"};
// They say it before the part: "tweaked my back", "a bad shoulder".
const Words kOfPart{"tweaked",   "tweak",      "strained",   "jammed",      "messed",  "screwed",  "fucked",
                    "effed",     "jacked",     "dinged",     "banged",      "bruised", "wrecked",  "busted",
                    "irritated", "irritating", "aggravated", "aggravating", "nursing", "favoring", "favouring",
                    "babying",   "icing",      "bum",        "gimpy",       "tore",    "stiff",    "tender",
                    "rolled",    "sprained",   "bothered",   "injured",     "threw",   "bothering"};
const Words kNeedsMine{"my", "the", "a", "an", "something", "some", "his", "her", "both", "left", "right", "by"};
// How a lift is done, not how a body is.
const Words kOfTheLift{"angle",     "position", "path",   "setup",     "pressure", "height", "width",   "drive",
                       "placement", "rounding", "rounds", "touch",     "cue",      "offs",   "stance",  "spacing",
                       "look",      "looks",    "looked", "rack",      "squat",    "squats", "sleeves", "sleeve",
                       "wraps",     "wrap",     "day",    "extension", "mobility"};
const Words kLinks{"feel", "feels", "felt", "feeling", "is",    "are", "was",    "were",  "been",  "seems",
                   "gets", "get",   "got",  "getting", "kinda", "bit", "little", "super", "really"};
// What a part can be or do without harm: technique, place, shape, praise. What is said of a joint in none of these
// words is heard as harm; caution is cheap.
const Words kHarmless{
    "caving",  "cave",      "caved",      "rounding", "rounded",     "round",    "high",     "higher",   "low",
    "lower",   "shifting",  "shift",      "rising",   "rise",        "flat",     "tucked",   "tuck",     "tracking",
    "track",   "better",    "best",       "stronger", "strong",      "weak",     "weaker",   "wide",     "wider",
    "narrow",  "narrower",  "closer",     "bent",     "bending",     "straight", "locked",   "locking",  "lock",
    "solid",   "good",      "great",      "fine",     "ok",          "okay",     "level",    "even",     "turned",
    "arched",  "arch",      "legal",      "stable",   "slow",        "slower",   "fast",     "faster",   "neutral",
    "against", "behind",    "ahead",      "front",    "over",        "under",    "planted",  "below",    "above",
    "tired",   "loose",     "tight",      "tighter",  "set",         "out",      "in",       "forward",  "back",
    "down",    "up",        "early",      "late",     "first",       "apart",    "together", "healthy",  "normal",
    "perfect", "different", "same",       "lazy",     "long",        "short",    "flaring",  "flare",    "moving",
    "going",   "coming",    "collapsing", "drifting", "wobbling",    "wobbly",   "shaking",  "bouncing", "pushed",
    "pushing", "driving",   "extended",   "flexed",   "stacked",     "centered", "lagging",  "open",     "closed",
    "sliding", "slipping",  "doing",      "working",  "supposed",    "parallel", "vertical", "square",   "squared",
    "leaning", "twisting",  "rotating",   "dropping", "lifting",     "touching", "on",       "off",      "where",
    "nice",    "amazing",   "awesome",    "smooth",   "comfortable", "warm",     "warmed",   "fresh",    "recovered",
    "my",      "your",      "the",        "bad",      "too"};
const Words kHarmlessTalk{"cave",  "caving", "rounding", "angle", "position",
                          "depth", "rise",   "rising",   "shift", "shifting"};
const Words kDenies{"no",     "not",    "without", "zero",    "never",   "doesn't", "don't", "didn't", "isn't",
                    "aren't", "wasn't", "hasn't",  "nothing", "stopped", "quit",    "any",   "won't",  "haven't"};
const Words kWorries{"avoid",  "avoiding", "prevent", "prevents", "prevention", "risk", "scared",
                     "afraid", "worried",  "worry",   "worrying", "fear",       "from", "could",
                     "will",   "would",    "might",   "if",       "safe"};
const Words kOthers{"partner", "friend", "buddy", "brother", "sister", "wife", "husband",    "he",       "she",
                    "his",     "her",    "they",  "mate",    "dad",    "mom",  "girlfriend", "boyfriend"};
const Words kMine{"daughter", "son", "kid", "daughter's", "son's"};

class PainReader {
 public:
  explicit PainReader(const Talk& talk) : t_(talk) {}

  std::optional<PainSaid> read() const {
    PainSaid yes{true, 0, {}};
    std::optional<PainSaid> no;
    bool noises = true;  // clicks and cracks, which need not hurt
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (!says(i) || isTalk(i)) continue;
      std::string sentence = t_.sentenceOf(i);
      if (denied(i)) {
        if (!no) no = PainSaid{false, i, {std::move(sentence)}};
        continue;
      }
      noises = noises && t_.in(i, {"clicks", "clicking", "click", "cracks", "cracking", "pops", "popping"});
      if (yes.words.empty()) yes.at = i;
      if (yes.words.empty() || yes.words.back() != sentence) yes.words.push_back(std::move(sentence));
    }
    return yes.words.empty() || (no && noises) ? no : std::optional(std::move(yes));
  }

 private:
  // "knee's" is a knee that is something.
  std::string bare(std::size_t i) const {
    std::string w = t_.word(i);
    if (w.ends_with("'s")) w.resize(w.size() - 2);
    return w;
  }
  bool joint(std::size_t i) const { return kJoints.count(bare(i)) > 0 && !isDirection(i); }
  bool part(std::size_t i) const { return joint(i) || kMuscles.count(bare(i)) > 0; }
  // "back off sets", "went back", "hips back", "back squat": no back of anybody.
  bool isDirection(std::size_t i) const {
    if (!t_.is(i, "back")) return false;
    return t_.in(i + 1, {"off", "offs", "squat", "squats", "up", "to", "down"}) || t_.phrase(i + 1, "- off") ||
           (i > 0 && t_.in(i - 1, {"came",    "come", "went",   "go",      "going", "hips",  "write",   "get",
                                   "getting", "is",   "are",    "coming",  "butt",  "text",  "elbow's", "set",
                                   "them",    "it",   "pulled", "holding", "bent",  "arched"}));
  }

  enum class Of { Joint, AnyPart };
  std::optional<std::size_t> partBefore(std::size_t i, Of of, std::size_t reach) const {
    for (std::size_t k = 1; k <= reach && k <= i && t_.sameSentence(i - k, i); ++k) {
      if (t_.in(i - k, kOfTheLift)) return std::nullopt;
      if (of == Of::Joint ? joint(i - k) : part(i - k)) return i - k;
    }
    return std::nullopt;
  }
  std::optional<std::size_t> partAfter(std::size_t i, Of of, std::size_t reach) const {
    for (std::size_t k = i + 1; k <= i + reach && t_.sameSentence(k, i); ++k)
      if (of == Of::Joint ? joint(k) : part(k)) return t_.in(k + 1, kOfTheLift) ? std::nullopt : std::optional(k);
    return std::nullopt;
  }
  bool nearJoint(std::size_t i) const { return partBefore(i, Of::Joint, 7) || partAfter(i, Of::Joint, 7); }
  bool nearPart(std::size_t i) const { return partBefore(i, Of::AnyPart, 7) || partAfter(i, Of::AnyPart, 7); }

  bool says(std::size_t i) const {
    return plainly(i) || oddly(i) || behindPart(i) || beforePart(i) || suddenly(i) || tight(i) || troubles(i) ||
           unable(i);
  }

  bool plainly(std::size_t i) const {
    if (t_.in(i, {"sore", "soreness"})) {
      const bool harmful =
          t_.inSentence(i, {"injured", "touch", "attaches", "attach", "insertion"}) || t_.in(i + 1, {"spot", "sore"});
      // What is sore is what stands before it; "sore from hip thrusts" is no sore hip.
      if (const auto what = partBefore(i, Of::AnyPart, 7)) return harmful || joint(*what);
      return harmful || partAfter(i, Of::Joint, 4) || (partAfter(i, Of::AnyPart, 2) && t_.before(i, {"nursing"}, 3));
    }
    if (t_.phrase(i, "bone on bone") || t_.phrase(i, "shin splints") || t_.phrase(i, "hanging by a thread"))
      return true;
    if (t_.phrase(i, "on fire") || t_.phrase(i, "like this") || t_.phrase(i, "like that"))
      return nearPart(i) && (t_.is(i, "on") || t_.before(i, {"doesn't", "don't", "didn't"}, 1)) &&
             !t_.before(i, {"i"}, 3);
    if (t_.phrase(i, "because of my") || t_.phrase(i, "because of the") || t_.phrase(i, "due to my"))
      return partAfter(i + 2, Of::Joint, 3).has_value();
    if (t_.is(i, "thing") && i > 0 && joint(i - 1))
      return !t_.in(i + 1, {"is", "you", "we"}) || t_.after(i, {"still"}, 4);
    if (t_.is(i, "something") && t_.before(i, {"felt", "feel", "feels", "feeling", "got", "like", "have"}, 5))
      return partAfter(i, Of::AnyPart, 8) && t_.after(i, {"in", "under", "behind", "near", "around", "at"}, 6);
    if (t_.is(i, "hurt") && t_.in(i + 1, {"my", "the"}) && !partAfter(i, Of::AnyPart, 4)) return false;
    if (t_.in(i, {"feeling", "sensation", "feel"}) && t_.in(i + 1, {"in", "behind", "down", "under", "around", "near"}))
      return !t_.is(i, "feel") && !t_.before(i, {"good", "great", "i'm", "best", "nice", "you"}, 2) &&
             partAfter(i, Of::AnyPart, 4);
    if (t_.in(i, {"see", "saw", "seeing"}) && t_.in(i + 1, {"someone", "somebody", "a", "my"}))
      return t_.after(i, {"physio", "doctor", "doc", "specialist", "pt"}, 4) || (t_.is(i + 2, "about") && nearPart(i));
    if (t_.in(i, {"dealing", "struggling", "managing", "battling", "fighting"}) || t_.phrase(i, "working around"))
      return partAfter(i, Of::Joint, 5) && !t_.inSentence(i, kHarmlessTalk);
    if (t_.in(i, {"something's", "something"}) && t_.after(i, {"up", "wrong", "weird", "off", "going"}, 3))
      return t_.after(i, {"with", "in"}, 5) && partAfter(i, Of::AnyPart, 8);
    if (t_.in(i, {"bothers", "bother", "bugs", "aggravates", "irritates"}) && partAfter(i, Of::AnyPart, 4)) return true;
    if (t_.phrase(i, "out of whack") || t_.phrase(i, "banged up") || t_.phrase(i, "dinged up")) return true;
    if (t_.is(i, "pinch") && i > 0 && joint(i - 1)) return true;
    if (t_.is(i, "stinger")) return true;
    if (t_.is(i, "lit") && t_.is(i + 1, "up")) return nearJoint(i);
    if (t_.in(i, {"kill", "kills"})) return nearPart(i) && !t_.in(i + 1, {"it", "that", "this"});
    if (t_.phrase(i, "urgent care") || t_.phrase(i, "x - ray") || t_.phrase(i, "pinched nerve")) return true;
    if (t_.is(i, "strain")) return nearPart(i) || t_.is(i + 1, "maybe");
    if (t_.is(i, "hurting")) return !t_.is(i + 1, "for");
    if (t_.is(i, "recovering")) return t_.is(i + 1, "from") && nearPart(i);
    if (t_.is(i, "ice") || t_.is(i, "iced")) return t_.in(i + 1, {"on", "my", "and"}) && partAfter(i, Of::Joint, 6);
    if (t_.is(i, "torn")) return !t_.is(i + 1, "between");
    if (t_.phrase(i, "pins and needles") || t_.phrase(i, "physical therapist") || t_.phrase(i, "physical therapy"))
      return true;
    if (t_.in(i, {"doc", "doctor", "pt", "specialist"}) && t_.in(i + 1, {"says", "said", "thinks", "told", "thought"}))
      return true;
    if (t_.is(i, "sharp") && t_.in(i + 1, {"pinch", "feeling", "sensation", "stab", "in", "under", "twinge", "jab"}))
      return true;
    if (t_.in(i, {"shooting", "shoots", "zap", "zing", "electric"}) &&
        t_.in(i + 1, {"down", "into", "through", "feeling"}))
      return nearPart(i);
    if (t_.in(i,
              {"golfers", "golfer's", "tennis", "jumpers", "jumper's", "runners", "runner's", "lifters", "lifter's"}))
      return joint(i + 1);
    return t_.in(i, kPlain);
  }

  bool behindPart(std::size_t i) const {
    if (t_.in(i, {"off", "shot"}) && t_.in(i + 1, {"the", "my", "of", "up", "back", "forward", "out"})) return false;
    if (t_.is(i, "killing")) return t_.is(i + 1, "me") && partBefore(i, Of::AnyPart, 5);
    if (t_.in(i, {"acting", "acts", "act", "playing", "flaring", "flared", "flares", "flare"})) {
      const bool up = t_.in(i + 1, {"up", "weird", "funny", "again"});
      const bool elbows = i > 0 && t_.before(i, {"elbows", "elbow", "lats", "knees", "knee"}, 3);
      return (up && (nearPart(i) || t_.before(i, {"it", "that", "thing"}, 4))) ||
             (t_.is(i, "flaring") && !elbows && partBefore(i, Of::Joint, 4).has_value());
    }
    if (t_.is(i, "seized") && i > 0 && joint(i - 1)) return true;
    if (t_.in(i, {"locked", "seized", "tightened", "gave", "gives", "went", "blew"}))
      return t_.in(i + 1, t_.in(i, {"gave", "gives", "went"}) ? Words{"out"} : Words{"up"}) &&
             partBefore(i, Of::Joint, 4);
    if (t_.phrase(i, "not happy") || t_.phrase(i, "not right") || t_.phrase(i, "not loving") ||
        t_.phrase(i, "not great"))
      return nearJoint(i) && !t_.inSentence(i, kOfTheLift);
    if (t_.is(i, "right") && t_.before(i, {"doesn't", "don't", "didn't", "isn't", "never"}, 3) &&
        t_.before(i, kLinks, 2))
      return nearJoint(i) && !t_.inSentence(i, kOfTheLift);
    if (t_.in(i, kBehind)) {
      const Of of = t_.in(i, {"burns", "burning", "screaming", "hate", "hates"}) ? Of::Joint : Of::AnyPart;
      if (partBefore(i, of, 6)) return true;
      if (t_.is(i, "stabbing")) return nearPart(i);
      // "it burns on the inside of my elbow", "pinching in the shoulder"
      return t_.in(i + 1, {"in", "on", "at", "under", "behind", "around", "inside", "a", "me"}) &&
             partAfter(i, Of::Joint, 9).has_value();
    }
    if (t_.in(i, {"lit", "blown"})) return t_.is(i + 1, "up") && partBefore(i, Of::AnyPart, 3);
    if (!t_.in(i, kFeels)) return false;
    if (t_.is(i, "uncomfortable") && t_.in(i + 1, {"in", "on", "around"}) && partAfter(i, Of::AnyPart, 4)) return true;
    if (t_.in(i, {"bad", "off", "rough"}) && t_.in(i + 1, {"rep", "set", "day", "lockout", "setup", "angle"}))
      return false;
    if (t_.is(i, "stiff") && t_.in(i + 1, {"leg", "legs", "legged", "bar"})) return false;
    const auto where = partBefore(i, Of::Joint, 5);
    if (!where) return false;
    const bool is_so = bare(*where) != t_.word(*where);
    for (std::size_t k = *where + 1; k < i; ++k)
      if (t_.in(k, kLinks)) return !t_.in(i + 1, kOfTheLift);
    return is_so;
  }

  // "my knee still feels unstable", "lower back is lit": said of a joint, in words that are not of the lift.
  bool oddly(std::size_t i) const {
    static const Words kIs{"is", "was", "feels", "felt", "feel", "feeling", "been", "keeps", "started"};
    if (!t_.in(i, kIs)) return false;
    const auto where = partBefore(i, Of::Joint, 4);
    if (!where || !t_.sameClause(*where, i) || t_.in(i + 1, {"that", "this", "it"}) ||
        t_.before(i, {"?", "when", "where", "if", "how", "so", "and"}, i - *where))
      return false;
    const bool many = t_.word(*where).ends_with("s") && !t_.is(*where, "achilles");
    if (many && !t_.in(i, {"feel", "feels", "felt", "feeling"})) return false;
    if (*where > 0 && t_.in(*where - 1, {"is", "are", "upper"})) return false;  // "is my back ...?"
    std::size_t k = i + 1, said = 0;
    for (; k < t_.size() && t_.sameClause(k, i) && t_.at(k).kind != Token::Kind::LineEnd; ++k) {
      const bool lit = t_.is(k, "on") && t_.is(k + 1, "fire");
      if (lit || t_.in(k, {"unstable", "pinched", "like"})) return true;
      if (t_.is(k, "out") && t_.is(k + 1, "again")) return true;
      if (t_.in(k, kHarmless) || t_.in(k, kOfTheLift)) return false;
      if (t_.at(k).kind == Token::Kind::Word && !t_.in(k, kLinks)) ++said;
      if (t_.is(k, "%")) return t_.before(k, {"not"}, 3);
    }
    return said > 0;
  }

  bool beforePart(std::size_t i) const {
    if (t_.in(i, {"bad", "bum", "dodgy", "gimpy"}))  // right before it: "a bad shoulder"
      return joint(i + 1) && (t_.is(i + 2, "day") || !t_.in(i + 2, kOfTheLift)) && !t_.is(i + 1, "back")
                 ? true
                 : t_.is(i + 1, "back") &&
                       (t_.endsSentence(i + 1) || t_.in(i + 2, {"this", "today", "again", "since"}));
    if (t_.in(i, {"broke", "cracked", "broken", "fractured"})) {
      static const Words kBones{"toe",  "finger", "thumb", "rib",   "ribs", "wrist",
                                "hand", "arm",    "foot",  "ankle", "leg"};
      return t_.in(i + 1, {"my", "a", "her", "his"}) && (t_.in(i + 2, kBones) || t_.in(i + 3, kBones));
    }
    if (t_.is(i, "pulled")) {
      static const Words kStrains{"muscle", "groin",   "hamstring", "hammy",     "quad",  "calf",        "pec", "lat",
                                  "bicep",  "oblique", "adductor",  "something", "glute", "intercostal", "back"};
      for (std::size_t k = i + 1; k <= i + 4 && t_.sameSentence(k, i); ++k)
        if (t_.in(k, kStrains) && k > i + 1) return true;
      return t_.is(i + 1, "something");
    }
    if (t_.in(i, {"favoring", "favouring", "babying"}) && t_.after(i, {"side"}, 4)) return true;
    if (t_.is(i, "put")) return partAfter(i, Of::Joint, 3) && t_.after(i, {"out"}, 4);
    if (t_.in(i, {"did", "done"}))
      return (t_.in(i + 1, {"my"}) && joint(i + 2) &&
              (t_.endsSentence(i + 2) || t_.in(i + 3, {"in", "again", "on", "at"}))) ||
             (t_.phrase(i + 1, "something to") && partAfter(i, Of::AnyPart, 5));
    if (!t_.in(i, kOfPart)) return false;
    if (t_.is(i, "stiff") && t_.in(i + 1, {"leg", "legs", "legged", "bar"})) return false;
    const auto where = partAfter(i, t_.is(i, "rolled") ? Of::Joint : Of::AnyPart, 5);
    // Grammar between them: "tweaked my lower back", not "rolled the bar, hips".
    if (!where)
      return t_.is(i, "tweaked") && t_.in(i + 1, {"something", "it"}) && (nearPart(i) || t_.is(i + 1, "something"));
    for (std::size_t k = i + 1; k < *where; ++k)
      if ((t_.is(k, ",") && !t_.is(i + 1, "it")) || t_.in(k, {"grip", "stance", "setup", "form", "bar", "width"}))
        return false;
    return *where == i + 1 || t_.in(i + 1, kNeedsMine) || t_.in(i + 1, {"it", "up", "out", "off", "in"}) ||
           t_.in(i + 2, kNeedsMine);
  }

  // "felt a pop in my knee", "something went in my back", "sharp pinch"
  bool suddenly(std::size_t i) const {
    static const Words kHappens{"pop",    "popped",  "popping", "snap",   "snapped", "tear",    "tearing", "rip",
                                "ripped", "go",      "went",    "give",   "gave",    "shift",   "shifted", "crunch",
                                "crack",  "cracked", "pull",    "twang",  "pinch",   "tweak",   "wrong",   "zing",
                                "stab",   "catch",   "jolt",    "off",    "slip",    "slipped", "tweaked", "grab",
                                "tug",    "twinge",  "cramp",   "tighten"};
    if (!t_.in(i, kHappens)) return false;
    if (t_.in(i, {"pinch", "catch", "stab"}) && t_.in(i == 0 ? i : i - 1, {"a", "sharp", "little", "slight", "this"}))
      return !t_.in(i + 1, {"at"}) || nearPart(i);
    if (t_.in(i, {"popped", "snapped", "pops", "popping"}) && i > 0 && joint(i - 1))
      return !t_.in(i + 1, {"up", "out", "off", "right", "back", "early"});
    if (t_.in(i, {"tear", "snap", "rip", "pop", "give", "blow"}) && t_.before(i, {"gonna", "about", "going"}, 2))
      return partBefore(i, Of::AnyPart, 7).has_value();
    if (t_.in(i, {"go", "give", "shift", "pop", "pull", "twinge", "grab", "tug", "cramp", "tighten", "slip"}) &&
        i > 0 && part(i - 1))
      return t_.before(i, {"felt", "heard"}, 5);
    const bool felt = t_.before(i, {"felt", "heard", "something", "feel", "there's", "had", "was"}, 5);
    const bool something = t_.before(i, {"something"}, 4);
    if (t_.in(i,
              {"go", "went", "gave", "give", "off", "wrong", "catch", "pull", "shift", "shifted", "slip", "slipped"}))
      return something ? nearPart(i)
                       : felt && (i > 0 && t_.in(i - 1, {"a", "slight", "little"})) && partAfter(i, Of::AnyPart, 5);
    return felt && partAfter(i, Of::AnyPart, 6) && !t_.in(i + 1, {"off", "out", "up"});
  }

  // Tight is good, and the back's strain when it is the lower back, or more than a bit.
  bool tight(std::size_t i) const {
    if (!t_.in(i, {"tight", "tightness", "crick", "kink", "knot"})) return false;
    if (!t_.is(i, "tight")) return nearPart(i);
    if (t_.before(i, {"stay", "stayed", "keep", "kept", "keeping", "staying", "upper", "lats", "not"}, 6)) return false;
    const auto where = partBefore(i, Of::Joint, 5);
    if (!where || !t_.before(i, kLinks, 3)) return false;
    const bool low = *where > 0 && t_.in(*where - 1, {"lower", "low"});
    return low || t_.in(i - 1, {"super", "really", "so", "crazy", "insanely"});
  }

  bool troubles(std::size_t i) const {
    if (!t_.in(i, {"trouble", "grief", "issue", "issues", "problem", "problems", "hell", "fits", "shit", "hassle"}))
      return false;
    if (t_.before(i, {"giving", "gives", "gave", "given"}, 3)) return nearPart(i);
    if (i > 0 && joint(i - 1)) return !t_.in(i + 1, {"caving"});
    if (!t_.in(i + 1, {"with", "in"})) return false;
    const auto where = partAfter(i, Of::Joint, 5);
    return where &&
           (t_.endsSentence(*where) || t_.in(*where + 1, {"since", "for", "again", "when", "this", "from", ","}));
  }

  bool unable(std::size_t i) const {
    const bool cannot = t_.in(i, {"can't", "couldn't", "cannot", "barely", "hardly"});
    if (!cannot) return false;
    const std::size_t k = i + 1;
    return t_.in(k, {"walk", "bend", "sleep"}) || t_.phrase(k, "put weight") || t_.phrase(k, "put any weight") ||
           t_.phrase(k, "straighten my") || t_.phrase(k, "turn my") || t_.phrase(k, "lift my arm") ||
           t_.phrase(k, "raise my arm") || t_.phrase(k, "close my hand") || t_.phrase(k, "sit down");
  }

  // Jokes, worries, others, what is long over.
  bool isTalk(std::size_t i) const {
    if (t_.inSentence(i, {"ego", "pride", "feelings"})) return true;
    if (t_.in(i, {"hurt", "hurts", "painful", "pain", "hurting"})) {
      if (t_.is(i + 1, "to") && t_.in(i + 2, {"watch", "hold", "see", "look", "wait"})) return true;
      if (t_.is(i, "hurt") && t_.is(i + 1, "to")) return true;
      if (t_.phrase(i + 1, "in the ass") || t_.phrase(i + 1, "in the butt") || t_.phrase(i + 1, "cave")) return true;
      if (t_.inSentence(i, {"gain", "gains"}) && t_.before(i, {"no"}, 1)) return true;
      if (t_.is(i + 1, "nothing") || t_.phrase(i + 1, "me with")) return true;
    }
    if (t_.in(i, {"injury", "injuries"}) && t_.in(i + 1, {"prevention", "risk", "prone"})) return true;
    const bool worried =
        t_.before(i, {"avoid", "avoiding", "prevent", "prevention", "risk", "scared", "afraid", "fear"}, 6) ||
        (t_.in(i, {"hurt", "hurting", "injured", "injury"}) &&
         (t_.before(i, kWorries, 5) || t_.before(i, {"want"}, 4)) && !t_.before(i, {"sure", "know"}, 5));
    if (worried) return true;
    const bool others =
        t_.before(i, kOthers, 4) || (t_.after(i, {"his", "her", "their"}, 2) && t_.before(i, kOthers, 6));
    if (others && !t_.inSentence(i, kMine)) return true;
    return t_.inSentence(i, {"used"}) && t_.inSentence(i, {"anymore", "now", "fine"}) && t_.after(0, {"used"}, 60);
  }

  bool denied(std::size_t i) const {
    if (t_.is(i + 1, "free") || t_.phrase(i + 1, "- free")) return true;
    if (t_.after(i, {"gone", "healed", "cleared"}, 4) && !t_.after(i, {"not", "isn't", "hasn't"}, 4)) return true;
    if (t_.after(i, {"too", "that", "terribly", "as"}, 2) && t_.before(i, {"doesn't", "not", "isn't", "don't"}, 2))
      return false;
    if (t_.before(i, {"know", "sure"}, 5)) return false;
    if (t_.in(i, {"not", "right", "like"})) return false;
    for (std::size_t k = 1; k <= 3 && k <= i && t_.sameClause(i - k, i); ++k)
      if (t_.in(i - k, kDenies)) return !t_.in(i - k + 1, {"only", "just"});
    return false;
  }

  const Talk& t_;
};

}  // namespace

std::optional<PainSaid> painIn(const Talk& talk) {
  return PainReader(talk).read();
}

}  // namespace jib::exchange
