"""Shared by all tests: the demo project, derived once; hypothesis without deadlines (no timed tests)."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import HealthCheck, settings

from balken.derive import derive
from balken.derived.model import Model
from balken.model.records import Project
from tests.shop import shop

# In CI every run draws the same examples; at a desk each run draws new ones (BALKEN_EXAMPLES of them).
settings.register_profile(
    "balken",
    deadline=None,
    max_examples=int(os.environ.get("BALKEN_EXAMPLES", "60")),
    derandomize=bool(os.environ.get("CI")),
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("balken")


@pytest.fixture(scope="session")
def demo() -> Project:
    return shop()


@pytest.fixture(scope="session")
def demo_model(demo: Project) -> Model:
    return derive(demo)
