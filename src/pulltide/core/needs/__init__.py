"""Registry of worksheets: one line each. Nothing outside this package names a kind of machine."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from pulltide.core.needs.agitator import AGITATOR, AgitatorSheet
from pulltide.core.needs.axis import AXIS, AxisSheet
from pulltide.core.needs.batch_mixer import BATCH_MIXER, BatchMixerSheet
from pulltide.core.needs.belt_conveyor import BELT_CONVEYOR, BeltConveyorSheet
from pulltide.core.needs.belt_grinder import BELT_GRINDER, BeltGrinderSheet
from pulltide.core.needs.bucket_elevator import BUCKET_ELEVATOR, BucketElevatorSheet
from pulltide.core.needs.bulk_conveyor import BULK_CONVEYOR, BulkConveyorSheet
from pulltide.core.needs.chain_conveyor import CHAIN_CONVEYOR, ChainConveyorSheet
from pulltide.core.needs.contract import Hanging, Move, NeedKind, Pulse
from pulltide.core.needs.door import DOOR, DoorSheet
from pulltide.core.needs.drill import DRILL, DrillSheet
from pulltide.core.needs.drum import DRUM, DrumSheet
from pulltide.core.needs.fan import FAN, FanSheet
from pulltide.core.needs.gate import GATE, GateSheet
from pulltide.core.needs.grinder import GRINDER, GrinderSheet
from pulltide.core.needs.hammer import HAMMER, HammerSheet
from pulltide.core.needs.hoist import HOIST, HoistSheet
from pulltide.core.needs.lathe import LATHE, LatheSheet
from pulltide.core.needs.lift_arm import LIFT_ARM, LiftArmSheet
from pulltide.core.needs.mill import MILL, MillSheet
from pulltide.core.needs.muller import MULLER, MullerSheet
from pulltide.core.needs.old_motor import OLD_MOTOR, OldMotorSheet
from pulltide.core.needs.paddle import PADDLE, PaddleSheet
from pulltide.core.needs.press import PRESS, PressSheet
from pulltide.core.needs.propeller import PROPELLER, PropellerSheet
from pulltide.core.needs.pug_mill import PUG_MILL, PugMillSheet
from pulltide.core.needs.pull import PULL, PullSheet
from pulltide.core.needs.pump import PUMP, PumpSheet
from pulltide.core.needs.roller_conveyor import ROLLER_CONVEYOR, RollerConveyorSheet
from pulltide.core.needs.saw import SAW, SawSheet
from pulltide.core.needs.screw_conveyor import SCREW_CONVEYOR, ScrewConveyorSheet
from pulltide.core.needs.trolley import TROLLEY, TrolleySheet
from pulltide.core.needs.turntable import TURNTABLE, TurntableSheet
from pulltide.core.needs.wood_lathe import WOOD_LATHE, WoodLatheSheet

AnyWorksheet = Annotated[
    PullSheet | OldMotorSheet
    | DrumSheet | BatchMixerSheet | PaddleSheet | MullerSheet | AgitatorSheet
    | HammerSheet | PressSheet
    | LatheSheet | WoodLatheSheet | MillSheet | DrillSheet | SawSheet | GrinderSheet | BeltGrinderSheet
    | BeltConveyorSheet | BulkConveyorSheet | RollerConveyorSheet | ChainConveyorSheet | ScrewConveyorSheet
    | PugMillSheet | BucketElevatorSheet
    | HoistSheet | LiftArmSheet | DoorSheet | TrolleySheet | GateSheet | TurntableSheet | AxisSheet
    | FanSheet | PumpSheet | PropellerSheet,
    Field(discriminator="kind"),
]  # fmt: skip

NEED_KINDS: tuple[NeedKind, ...] = (
    PULL, OLD_MOTOR,
    DRUM, BATCH_MIXER, PADDLE, MULLER, AGITATOR,
    HAMMER, PRESS,
    LATHE, WOOD_LATHE, MILL, DRILL, SAW, GRINDER, BELT_GRINDER,
    BELT_CONVEYOR, BULK_CONVEYOR, ROLLER_CONVEYOR, CHAIN_CONVEYOR, SCREW_CONVEYOR, PUG_MILL, BUCKET_ELEVATOR,
    HOIST, LIFT_ARM, DOOR, TROLLEY, GATE, TURNTABLE, AXIS,
    FAN, PUMP, PROPELLER,
)  # fmt: skip
_BY_KIND = {kind.kind: kind for kind in NEED_KINDS}


def need_kind(kind: str) -> NeedKind:
    """The worksheet of a kind of machine. Raises KeyError if there is none."""
    return _BY_KIND[kind]


def pulse_of(worksheet: AnyWorksheet | None) -> Pulse | None:
    """What of the work of a machine comes in blows; None where it works evenly or nothing tells."""
    return None if worksheet is None else need_kind(worksheet.kind).pulse(worksheet)


def hangs_in(worksheet: AnyWorksheet | None) -> Hanging | None:
    """What hangs raised in a machine at work; None where nothing does or nothing tells."""
    return None if worksheet is None else need_kind(worksheet.kind).hangs(worksheet)


def move_of(worksheet: AnyWorksheet | None) -> Move | None:
    """The move that a machine is made to follow; None where it runs on or nothing tells."""
    return None if worksheet is None else need_kind(worksheet.kind).move(worksheet)
