"""The tests mirror orthocris/ path by path; run them with python -m tests."""

from hypothesis import settings

# A shared machine may pause anywhere, so no example has a deadline; and the same commit always
# tries the same examples, so that a red run can be repeated.
settings.register_profile("house", deadline=None, derandomize=True)
settings.load_profile("house")
