"""Shared by all tests: the demo project, derived once; hypothesis without deadlines (no timed tests)."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import HealthCheck, settings

from balken.demo import orchard_road
from balken.derive import Model, derive
from balken.model.records import Project

settings.register_profile("balken", deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("balken")


@pytest.fixture(scope="session")
def demo() -> Project:
    return orchard_road()


@pytest.fixture(scope="session")
def demo_model(demo: Project) -> Model:
    return derive(demo)
