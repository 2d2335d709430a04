"""The algebra worker: reads one piece of work a line on its input, answers one line each.

Run as `python -m vendaval_core.scoring.worker`; ends when its input does.
"""

import json
import resource
import sys

MEMORY_BYTES = 1 << 30


def main() -> None:
    """Answer until the input ends."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    # Here and not above: the server never imports sympy, which takes long to load.
    from .algebra import compare, warm_up

    warm_up()
    print(json.dumps(["ready", "", ""]), flush=True)
    for line in sys.stdin:
        answer, typed, symbols, form = json.loads(line)
        try:
            found = compare(answer, typed, tuple(symbols), form)
        except (
            ArithmeticError,
            RecursionError,
            MemoryError,
            TypeError,
            ValueError,
            AttributeError,
        ):
            found = ("unreadable", "", "That formula cannot be worked out.")
        print(json.dumps(found), flush=True)


if __name__ == "__main__":
    main()
