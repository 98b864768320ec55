"""FBX text files with random curves of every tangent mode, for the checks against another reader."""

import random
import struct

TICKS = 46186158000
RATE = 24
FIRST, LAST = 1, 40


def packed(right, left):
    """Two weights in one float, as the format packs them; they are stored as that float's bits."""
    bits = (int(left * 9999) << 16) | int(right * 9999)
    return struct.unpack("<i", struct.pack("<I", bits))[0]


KINDS = (
    "constant", "next", "linear", "user", "broken", "auto", "auto-broken", "clamped",
    "progressive", "independent", "both", "tcb", "bias",
)
# Kinds whose slope does not depend on the weights beside it.
FREE_OF_WEIGHTS = tuple(k for k in KINDS if k not in ("progressive", "both"))


def key(rng, weighted, kinds):
    """Flags and four attributes of one key."""
    kind = rng.choice(kinds)
    slope = lambda: round(rng.uniform(-30, 30), 4)
    flags, data = {
        "constant": (0x2, [0, 0, 0, 0]),
        "next": (0x102, [0, 0, 0, 0]),
        "linear": (0x4, [0, 0, 0, 0]),
        "user": (0x408, [slope(), slope(), 0, 0]),
        "broken": (0xC08, [slope(), slope(), 0, 0]),
        "auto": (0x108, [0, 0, 0, 0]),
        "auto-broken": (0x908, [rng.choice([0.0, 40.0, -70.0]), rng.choice([0.0, 25.0, -60.0]), 0, 0]),
        "clamped": (0x1108, [0, 0, 0, 0]),
        "progressive": (0x4108, [0, 0, 0, 0]),
        "independent": (0x2108, [0, 0, 0, 0]),
        "both": (0x6108, [0, 0, 0, 0]),
        "tcb": (0x208, [round(rng.uniform(-1, 1), 3) for _ in range(3)] + [0]),
        "bias": (0x108, [rng.choice([30.0, -45.0, 90.0, 650.0, -720.0]), 0, 0, 0]),
    }[kind]
    if weighted and kind in ("user", "broken", "auto", "auto-broken"):
        flags |= rng.choice([0x1000000, 0x2000000, 0x3000000])
        data[2] = packed(rng.uniform(0.05, 0.95), rng.uniform(0.05, 0.95))
    return flags, data


def curve(rng, weighted, kinds=KINDS):
    n = rng.randint(1, 8)
    times = sorted(rng.sample(range(FIRST * 4, LAST * 4), n))  # quarter frames
    values = [round(rng.uniform(-10, 10), 3) for _ in times]
    for i in range(1, n):
        if rng.random() < 0.15:
            values[i] = values[i - 1]
    keys = [key(rng, weighted, kinds) for _ in times]
    return [t * TICKS // (4 * RATE) for t in times], values, keys


def array(name, numbers):
    text = ",".join(str(v) for v in numbers)
    return f"        {name}: *{len(numbers)} {{\n            a: {text}\n        }}\n"


def bits(number):
    """Attributes of keys are written as the bits of 32-bit floats; weights are bits already."""
    if isinstance(number, int) and number != 0:
        return number
    return struct.unpack("<i", struct.pack("<f", number))[0]


def beyond(rng, modes):
    """What a curve says of the time before and after its keys; often nothing."""
    text = ""
    for end in ("Pre", "Post"):
        if rng.random() < 0.3:
            text += (
                f"        {end}-Extrapolation:  {{\n            Type: {rng.choice(modes)}\n"
                f"            Repetition: {rng.choice([-1, 0, 1, 2])}\n        }}\n"
            )
    return text


def curve_text(number, times, values, keys, extrapolation=""):
    return (
        f'    AnimationCurve: {number}, "AnimCurve::", "" {{\n'
        f"        Default: 0\n        KeyVer: 4008\n"
        + array("KeyTime", times)
        + array("KeyValueFloat", values)
        + array("KeyAttrFlags", [f for f, _ in keys])
        + array("KeyAttrDataFloat", [bits(v) for _, d in keys for v in d])
        + array("KeyAttrRefCount", [1] * len(keys))
        + extrapolation
        + "    }\n"
    )


def document(seed, nulls, weighted, kinds=KINDS):
    rng = random.Random(seed)
    objects, links = [], []
    objects.append('    AnimationStack: 10, "AnimStack::take", "" {\n    }\n')
    objects.append('    AnimationLayer: 11, "AnimLayer::base", "" {\n    }\n')
    links.append('    C: "OO",11,10\n')
    number = 1000
    for i in range(nulls):
        model, node = number, number + 1
        objects.append(
            f'    Model: {model}, "Model::n{i}", "Null" {{\n        Version: 232\n'
            "        Properties70:  {\n"
            '            P: "Lcl Translation", "Lcl Translation", "", "A",0,0,0\n'
            "        }\n    }\n"
        )
        links.append(f'    C: "OO",{model},0\n')
        objects.append(
            f'    AnimationCurveNode: {node}, "AnimCurveNode::T", "" {{\n'
            "        Properties70:  {\n"
            + "".join(f'            P: "d|{c}", "Number", "", "A",0\n' for c in "XYZ")
            + "        }\n    }\n"
        )
        links.append(f'    C: "OO",{node},11\n    C: "OP",{node},{model}, "Lcl Translation"\n')
        for k, c in enumerate("XYZ"):
            objects.append(curve_text(number + 2 + k, *curve(rng, weighted, kinds), beyond(rng, "CKRMA")))
            links.append(f'    C: "OP",{number + 2 + k},{node}, "d|{c}"\n')
        number += 10
    return file_of(objects, links)


def file_of(objects, links):
    """The file with its settings around objects and connections."""
    return (
        "; FBX 7.5.0 project file\nFBXHeaderExtension:  {\n    FBXHeaderVersion: 1003\n"
        "    FBXVersion: 7500\n}\nGlobalSettings:  {\n    Version: 1000\n    Properties70:  {\n"
        '        P: "TimeMode", "enum", "", "",11\n'
        '        P: "UnitScaleFactor", "double", "Number", "",100\n'
        f'        P: "TimeSpanStart", "KTime", "Time", "",{FIRST * TICKS // RATE}\n'
        f'        P: "TimeSpanStop", "KTime", "Time", "",{LAST * TICKS // RATE}\n'
        "    }\n}\nDefinitions:  {\n    Version: 100\n    Count: 0\n}\nObjects:  {\n"
        + "".join(objects)
        + "}\nConnections:  {\n"
        + "".join(links)
        + "}\n"
    )
