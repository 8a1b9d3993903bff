"""Axis placements read from IFC, against ifcopenshell's own."""

import ifcopenshell
import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from ifcopenshell.util.placement import get_axis2placement

from balken.exchange.ifc_shapes import axes_of, inverse

number = st.floats(-5.0, 5.0)
vector = st.tuples(number, number, number)
FILE = ifcopenshell.file(schema="IFC4")


def placement(at, axis, reference):
    return FILE.create_entity(
        "IfcAxis2Placement3D",
        FILE.create_entity("IfcCartesianPoint", at),
        FILE.create_entity("IfcDirection", axis) if axis else None,
        FILE.create_entity("IfcDirection", reference) if reference else None,
    )


@given(vector, vector, vector)
def test_any_axes(at, axis, reference):
    assume(np.linalg.norm(np.cross(axis, reference)) > 0.05)
    found = axes_of(placement(at, axis, reference))
    # ifcopenshell takes the reference as square to the axis; the standard has it made so.
    z = np.array(axis) / np.linalg.norm(axis)
    square = tuple((np.array(reference) - z * (z @ reference)).tolist())
    assert found == pytest.approx(np.array(get_axis2placement(placement(at, axis, square))), abs=1e-7)
    assert inverse(found) @ found == pytest.approx(np.eye(4), abs=1e-9)


def test_axes_left_out_or_along_one_another():
    assert axes_of(placement((1.0, 2.0, 3.0), None, None))[:3, 3] == pytest.approx((1.0, 2.0, 3.0))
    same = axes_of(placement((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (1.0, 0.0, 0.0)))
    assert np.linalg.det(same) == pytest.approx(1.0)
    flat = FILE.create_entity(
        "IfcAxis2Placement2D",
        FILE.create_entity("IfcCartesianPoint", (4.0, 5.0)),
        FILE.create_entity("IfcDirection", (0.0, 2.0)),
    )
    assert axes_of(flat) == pytest.approx(np.array(get_axis2placement(flat)))
