from outgrowth.core.memo import ByIdentity, Generations


def test_what_was_used_lately_is_kept_and_the_rest_goes():
    kept = Generations(2)
    for key in "ab":
        kept.put(key, key.upper())
    kept.put("c", "C")
    assert kept.get("a") == "A", "asked for again, so it moves to the young ones"
    kept.put("d", "D")
    kept.put("e", "E")
    assert kept.get("b") is None
    assert kept.get("a") == "A"
    assert len(kept) <= 4


def test_results_are_found_by_identity_and_not_by_equality():
    calls = []

    def size(subject):
        calls.append(subject)
        return len(subject)

    measured = ByIdentity(size)
    first, equal = [1, 2], [1, 2]
    assert measured(first) == measured(first) == measured(equal) == 2
    assert len(calls) == 2


def test_a_subject_that_is_gone_is_not_taken_for_another():
    measured = ByIdentity(len, capacity=4)
    for n in range(100):
        assert measured([0] * n) == n
