"""FBX text files with random trees: pivots, orders, inherit types, layers and extrapolation."""

import random

from fbx_curves import beyond, curve, curve_text, file_of

TREES = 10  # in a file
LEAF = 5.0


class Tree:
    """The objects and connections of one file while they are made."""

    def __init__(self, seed):
        self.rng = random.Random(seed)
        self.objects = []
        self.links = []
        self.number = 100
        self.layers = []
        self.names = []

    def next(self):
        self.number += 1
        return self.number

    def vector(self, least, most):
        return [round(self.rng.uniform(least, most), 3) for _ in range(3)]

    def add_layers(self):
        stack = self.next()
        self.objects.append(f'    AnimationStack: {stack}, "AnimStack::take", "" {{\n    }}\n')
        for i in range(self.rng.randint(1, 4)):
            layer = self.next()
            weight = 100 if i == 0 else self.rng.choice([100, 60, 25, 0])
            moves = i > 0 and self.rng.random() < 0.4
            self.objects.append(
                f'    AnimationLayer: {layer}, "AnimLayer::l{i}", "" {{\n        Properties70:  {{\n'
                f'            P: "Weight", "Number", "", "A",{weight}\n'
                f'            P: "BlendMode", "enum", "", "",{0 if i == 0 else self.rng.randint(0, 2)}\n'
                f'            P: "RotationAccumulationMode", "enum", "", "",{self.rng.randint(0, 1)}\n'
                f'            P: "ScaleAccumulationMode", "enum", "", "",{self.rng.randint(0, 1)}\n'
                "        }\n    }\n"
            )
            self.links.append(f'    C: "OO",{layer},{stack}\n')
            self.layers.append(layer)
            if moves:
                self.drive(layer, layer, "Weight", [(5, 95)], [weight])

    def drive(self, target, layer, prop, spans, defaults):
        """Curves of one property on one layer; a component may have none."""
        node = self.next()
        channels = [f"d|{prop}"] if len(spans) == 1 else ["d|X", "d|Y", "d|Z"]
        self.objects.append(
            f'    AnimationCurveNode: {node}, "AnimCurveNode::", "" {{\n        Properties70:  {{\n'
            + "".join(
                f'            P: "{c}", "Number", "", "A",{d}\n' for c, d in zip(channels, defaults)
            )
            + "        }\n    }\n"
        )
        self.links.append(f'    C: "OO",{node},{layer}\n    C: "OP",{node},{target}, "{prop}"\n')
        for channel, (least, most) in zip(channels, spans):
            if len(spans) > 1 and self.rng.random() < 0.2:
                continue
            times, values, keys = curve(self.rng, False)
            values = [round(least + (v + 10) / 20 * (most - least), 4) for v in values]
            # The curves' own check has every tangent; here what is done with them is compared.
            keys = [(self.rng.choice([0x2, 0x4, 0x102]), [0, 0, 0, 0]) for _ in keys]
            number = self.next()
            self.objects.append(curve_text(number, times, values, keys, beyond(self.rng, "CRMA")))
            self.links.append(f'    C: "OP",{number},{node}, "{channel}"\n')

    def model(self, name, parent, leaf):
        rng = self.rng
        number = self.next()
        lines = []

        def say(prop, kind, values):
            text = ",".join(str(v) for v in values)
            lines.append(f'            P: "{prop}", "{kind}", "", "A",{text}\n')

        own = {
            "Lcl Translation": self.vector(-LEAF, LEAF),
            "Lcl Rotation": self.vector(-180, 180),
            "Lcl Scaling": [1, 1, 1] if rng.random() < 0.5 else self.vector(0.6, 1.7),
        }
        for prop, values in own.items():
            say(prop, prop, values)
        say("RotationActive", "bool", [1])
        say("RotationOrder", "enum", [rng.randint(0, 5)])
        say("InheritType", "enum", [rng.randint(0, 2)])
        for prop in ("RotationOffset", "RotationPivot", "ScalingOffset", "ScalingPivot"):
            if rng.random() < 0.4:
                say(prop, "Vector3D", self.vector(-2, 2))
        for prop in ("PreRotation", "PostRotation"):
            if rng.random() < 0.4:
                say(prop, "Vector3D", self.vector(-180, 180))
        self.objects.append(
            f'    Model: {number}, "Model::{name}", "Null" {{\n        Version: 232\n'
            "        Properties70:  {\n" + "".join(lines) + "        }\n    }\n"
        )
        self.links.append(f'    C: "OO",{number},{parent}\n')
        spans = {
            "Lcl Translation": (-LEAF, LEAF),
            "Lcl Rotation": (-180, 180),
            "Lcl Scaling": (0.6, 1.7),
        }
        # A layer drives all three or none: where it drives some, this version of the other reader
        # takes the rest from the next model (it does not check whose curves it has come to).
        for i, layer in enumerate(self.layers):
            if rng.random() < (0.5 if i == 0 else 0.25):
                for prop, span in spans.items():
                    self.drive(number, layer, prop, [span] * 3, own[prop])
        if leaf:
            self.names.append(name)
        return number


def document(seed):
    """The text of a file, and the names of what must be compared: nulls that hold nothing."""
    tree = Tree(seed)
    tree.add_layers()
    for t in range(TREES):
        inner = []
        for i in range(tree.rng.randint(1, 4)):
            parent = 0 if i == 0 else tree.rng.choice(inner)
            inner.append(tree.model(f"t{t}g{i}", parent, False))
        for i, parent in enumerate(inner):
            tree.model(f"t{t}leaf{i}", parent, True)
    return file_of(tree.objects, tree.links), set(tree.names)
