"""An independent, slow solution of the circuit: node voltages by linear algebra, diodes by state.

One common is held at 1 V behind a small resistance, every line is pulled to ground, diodes are
ideal in series with a small resistance.  Their states are changed until all of them agree.
"""

import numpy as np

SMALL, PULL, LEAK = 1.0, 1e5, 1e9


def closed_lines(lines, commons, contacts, shorts, driven, out):
    """The lines that read as closed with one common driven.

    ``contacts`` are (common, line, way) with way «out», «in» or «both»; ``shorts`` pairs of nodes,
    lines first.  With ``out`` False the driven common is at ground and the lines are pulled up.
    """
    count = lines + commons
    conductive = [w == "both" for *_, w in contacts]
    for _ in range(200):
        volts = _solve(lines, count, contacts, shorts, conductive, lines + driven, out)
        wrong = None
        for n, (common, line, way) in enumerate(contacts):
            if way == "both":
                continue
            a, b = (lines + common, line) if way == "out" else (line, lines + common)
            forward = volts[a] > volts[b] + 1e-9
            if bool(forward) != conductive[n] and abs(volts[a] - volts[b]) > 1e-9:
                wrong = n
                break
        if wrong is None:
            level = [volts[line] if out else 1 - volts[line] for line in range(lines)]
            return {n for n, v in enumerate(level) if v > 0.5}
        conductive[wrong] = not conductive[wrong]
    raise AssertionError("the diodes do not come to rest")


def _solve(lines, count, contacts, shorts, conductive, driven, out):
    matrix, right = np.zeros((count, count)), np.zeros(count)

    def join(a, b, ohms):
        g = 1 / ohms
        matrix[a, a] += g
        matrix[b, b] += g
        matrix[a, b] -= g
        matrix[b, a] -= g

    def hold(node, volts, ohms):
        matrix[node, node] += 1 / ohms
        right[node] += volts / ohms

    for n, (common, line, _) in enumerate(contacts):
        if conductive[n]:
            join(lines + common, line, SMALL)
    for a, b in shorts:
        join(a, b, SMALL / 100)
    for line in range(lines):
        hold(line, 0.0 if out else 1.0, PULL)
    for node in range(lines, count):
        hold(node, 0.0 if out else 1.0, LEAK)
    hold(driven, 1.0 if out else 0.0, SMALL / 100)
    return np.linalg.solve(matrix, right)
