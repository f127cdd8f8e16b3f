"""Geometry factors of generated teeth against a table worked separately: every count that a shop cuts, small ones too.

Undercut by the hob, its trochoid root, teeth thinned by 0.024 modules; bending by the method of AGMA 908-B89.
"""

from __future__ import annotations

from itertools import pairwise

import pytest

from pulltide.core.spur import form

MATES = (17, 35, 85)
#: Pressure angle, teeth, J against a mate of 17, 35 and 85 teeth, contact ratio with 35.
TABLE = [
    (20, 6, 0.123, 0.123, 0.123, 0.71),
    (20, 7, 0.146, 0.146, 0.146, 0.80),
    (20, 8, 0.163, 0.163, 0.163, 0.89),
    (20, 9, 0.177, 0.177, 0.177, 0.98),
    (20, 10, 0.194, 0.194, 0.194, 1.06),
    (20, 11, 0.213, 0.213, 0.213, 1.15),
    (20, 12, 0.232, 0.232, 0.232, 1.24),
    (20, 13, 0.251, 0.251, 0.251, 1.33),
    (20, 14, 0.270, 0.270, 0.270, 1.42),
    (20, 15, 0.288, 0.290, 0.290, 1.51),
    (20, 16, 0.296, 0.308, 0.310, 1.59),
    (20, 17, 0.303, 0.316, 0.327, 1.60),
    (20, 18, 0.310, 0.323, 0.335, 1.61),
    (20, 19, 0.316, 0.330, 0.342, 1.62),
    (20, 20, 0.321, 0.336, 0.349, 1.62),
    (20, 22, 0.331, 0.347, 0.361, 1.63),
    (20, 24, 0.339, 0.356, 0.371, 1.64),
    (20, 26, 0.346, 0.364, 0.380, 1.65),
    (20, 28, 0.353, 0.371, 0.388, 1.66),
    (20, 30, 0.358, 0.378, 0.395, 1.67),
    (20, 34, 0.367, 0.388, 0.407, 1.68),
    (20, 38, 0.375, 0.396, 0.417, 1.70),
    (20, 45, 0.385, 0.408, 0.430, 1.71),
    (20, 60, 0.399, 0.424, 0.448, 1.74),
    (20, 80, 0.410, 0.437, 0.463, 1.76),
    (20, 100, 0.417, 0.445, 0.472, 1.77),
    (25, 6, 0.147, 0.147, 0.147, 0.82),
    (25, 7, 0.177, 0.177, 0.177, 0.93),
    (25, 8, 0.204, 0.204, 0.204, 1.04),
    (25, 9, 0.233, 0.233, 0.233, 1.15),
    (25, 10, 0.263, 0.263, 0.263, 1.27),
    (25, 11, 0.288, 0.293, 0.293, 1.38),
    (25, 12, 0.305, 0.313, 0.318, 1.40),
    (25, 13, 0.319, 0.328, 0.335, 1.41),
    (25, 14, 0.332, 0.342, 0.349, 1.42),
    (25, 15, 0.344, 0.354, 0.362, 1.43),
    (25, 16, 0.354, 0.365, 0.374, 1.43),
    (25, 17, 0.363, 0.375, 0.384, 1.44),
    (25, 18, 0.372, 0.384, 0.394, 1.44),
    (25, 19, 0.379, 0.392, 0.403, 1.45),
    (25, 20, 0.386, 0.400, 0.411, 1.45),
    (25, 22, 0.399, 0.413, 0.425, 1.46),
    (25, 24, 0.410, 0.425, 0.437, 1.47),
    (25, 26, 0.419, 0.435, 0.448, 1.47),
    (25, 28, 0.427, 0.443, 0.457, 1.48),
    (25, 30, 0.434, 0.451, 0.465, 1.48),
    (25, 34, 0.446, 0.464, 0.479, 1.49),
    (25, 38, 0.456, 0.475, 0.491, 1.50),
    (25, 45, 0.469, 0.489, 0.506, 1.51),
    (25, 60, 0.487, 0.509, 0.528, 1.52),
    (25, 80, 0.502, 0.525, 0.545, 1.54),
    (25, 100, 0.511, 0.535, 0.555, 1.54),
]


@pytest.mark.parametrize("row", TABLE, ids=lambda row: f"{row[0]} deg, {row[1]} teeth")
def test_every_count_has_its_geometry_factor(row: tuple[float, ...]):
    angle, teeth, *factors, contact = row
    for mate, value in zip(MATES, factors, strict=True):
        found = form.geometry_factor(form.Tooth(teeth, angle), form.Tooth(mate, angle))
        assert found == pytest.approx(value, rel=0.006, abs=0.0006), mate
    assert form.contact_path(form.Tooth(teeth, angle), form.Tooth(35, angle)).ratio == pytest.approx(contact, abs=0.006)


#: Lewis form factors of teeth as a standard hob leaves them, worked separately for full thickness: ours are thinned.
LEWIS = [(6, 0.0952), (8, 0.1501), (10, 0.1920), (12, 0.2246), (14, 0.2505), (17, 0.2806), (20, 0.3035), (30, 0.3519)]


@pytest.mark.parametrize(("teeth", "value"), LEWIS)
def test_lewis_form_factors_follow_the_root(teeth: int, value: float):
    """Thinning by 0.024 modules takes 2 to 4 % of the form factor off the full tooth."""
    found = form.lewis_form(form.Tooth(teeth))
    assert 0.955 * value < found < 0.985 * value


def test_more_teeth_are_never_weaker_against_one_mate():
    mate = form.Tooth(40)
    factors = [form.geometry_factor(form.Tooth(n), mate) for n in range(6, 120)]
    assert all(b > a * 0.985 for a, b in pairwise(factors))


@pytest.mark.parametrize(("teeth", "shift", "tip"), [(10, 0.45, 0.2449), (17, 0.0, None)])
def test_shift_sharpens_the_tip(teeth: int, shift: float, tip: float | None):
    """Ten teeth shifted 0.45: 0.2449 modules at the tip, worked separately for full teeth; thinning takes 0.024."""
    found = form.Tooth(teeth, shift=shift).tip_thickness
    assert found > 0
    if tip is not None:
        assert found == pytest.approx(tip - 0.024, abs=0.01)
        assert found < form.Tooth(teeth).tip_thickness


def test_a_ring_mesh_touches_longer_than_an_outside_one():
    """20 in 60: 1.854 with shortened tips, worked separately; outside the same counts give less."""
    outside = form.contact_path(form.Tooth(20), form.Tooth(60)).ratio
    assert outside == pytest.approx(1.66, abs=0.03)
