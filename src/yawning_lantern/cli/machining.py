"""`cut`: files for a cutting machine, tried on the simulated one."""

from __future__ import annotations

import argparse
import re
import sys
from pathlib import Path

from yawning_lantern.cli.designs import design_arguments, told_design
from yawning_lantern.errors import ParameterError
from yawning_lantern.exchange.cut_files import beds_of, report_svg, to_dxf, to_hpgl, to_svg
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.machine import Plotter, run
from yawning_lantern.study import Study, sound

_BED = re.compile(r"(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)")


def machining_arguments(command: argparse.ArgumentParser) -> None:
    """Of what, in which files, for which machine."""
    design_arguments(command)
    command.add_argument("--svg", type=Path, metavar="OUT", help="write a drawing with a layer for each kind of line")
    command.add_argument("--dxf", type=Path, metavar="OUT", help="write the same as DXF")
    command.add_argument("--hpgl", type=Path, metavar="OUT", help="write a plotter file")
    command.add_argument("--each", action="store_true", help="every piece by itself, not nested on sheets")
    command.add_argument("--knife", type=float, default=0.25, metavar="MM", help="how far the knife trails (0.25 mm)")
    command.add_argument("--bed", default="330x330", metavar="WxH", help="the machine's bed, mm (330x330)")
    command.add_argument("--drawn", type=Path, metavar="OUT", help="what the machine really does, as SVG")


def machine_cut(options: argparse.Namespace) -> int:
    """Write the files; the plotter file is tried on the simulated machine."""
    if not (options.svg or options.dxf or options.hpgl or options.drawn):
        raise ParameterError("Nothing is asked for.", "cut", "Add --svg, --dxf or --hpgl with a file name.")
    bed = _BED.fullmatch(options.bed)
    if bed is None:
        raise ParameterError(f"“{options.bed}” is no bed.", "--bed", "Write its sides in mm, such as 330x330.")
    if not 0.0 <= options.knife <= 3.0:
        raise ParameterError("No knife trails so far.", "--knife", "Give 0 to 3 mm.")
    design = told_design(options)
    study = sound(Study(design))
    beds = beds_of(study, each=options.each)
    machine = Plotter(float(bed[1]), float(bed[2]), offset=options.knife)
    if options.svg:
        write_atomically(options.svg, to_svg(beds, design.name).encode())
    if options.dxf:
        write_atomically(options.dxf, to_dxf(beds).encode())
    said = (
        f"{len(beds)} piece{'s' * (len(beds) != 1)}" if options.each else f"{len(beds)} sheet{'s' * (len(beds) != 1)}"
    )
    print(f"{design.name}: {said}, {sum(len(bed.paths) for bed in beds)} lines")
    if not (options.hpgl or options.drawn):
        return 0
    text = to_hpgl(beds, machine)
    report = run(text, machine)
    if options.hpgl:
        write_atomically(options.hpgl, text.encode())
    if options.drawn:
        write_atomically(options.drawn, report_svg(report).encode())
    for fault in report.faults:
        print(f"lantern: {fault.words}", file=sys.stderr)
    print(
        "On the simulated machine: "
        + (f"{len(report.faults)} faults" if report.faults else "every cut as it should be")
    )
    print("Blades cut: try it on scrap first; the machine's own instructions have the last word.")
    return 1 if report.faults else 0
