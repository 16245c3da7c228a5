"""What several tests share: the demo publication, a small one, and an open window."""

from __future__ import annotations

import os
import tempfile

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["LC_ALL"] = "C.UTF-8"  # numbers and dates are written the same on every machine
# What the program remembers on this machine is neither read nor written by tests.
os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp(prefix="hidden-frame-tests-")
os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="hidden-frame-tests-")
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="hidden-frame-tests-")
os.environ["XDG_DATA_HOME"] = tempfile.mkdtemp(prefix="hidden-frame-tests-")

import pytest
from hypothesis import HealthCheck, settings

from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.new import new_publication
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.trims import TRIMS

settings.register_profile(
    "hidden-frame",
    deadline=None,
    max_examples=60,
    derandomize=True,
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("hidden-frame")


@pytest.fixture(scope="session")
def demo() -> tuple[Publication, dict[str, bytes]]:
    return almanac()


@pytest.fixture
def small() -> Publication:
    """Eight facing A5 pages that follow one empty master."""
    return new_publication("Small", Setup(trim=TRIMS["A5"], bleed=9.0), 8)
