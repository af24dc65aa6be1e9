"""What is derived is kept by identity, also while a solver works beside the window."""

import sys
import threading

from vastzone.core.plan.cache import derived


def test_two_threads_may_ask_at_once():
    @derived(2)
    def doubled(items):
        return [2 * item for item in items]

    values = [tuple(range(n, n + 3)) for n in range(5)]
    wrong = []

    def ask():
        for n in range(4000):
            items = values[n % 5]
            try:
                if doubled(items) != [2 * item for item in items]:
                    wrong.append(items)
            except KeyError as error:
                wrong.append(error)

    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    try:
        threads = [threading.Thread(target=ask) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    finally:
        sys.setswitchinterval(before)
    assert not wrong
