"""Figures in files of their own: SVG, or YAML with a slider, from a topic's `figures` folder."""

from __future__ import annotations

from pathlib import Path

from vendaval_core.language import gettext

from ..items.drawn import Figure
from ..items.fields import FigureFileModel, FigureModel
from .located import PackProblem, read_utf8, read_yaml, validated


def figure_data(folder: Path, name: str, file: str) -> dict[str, object] | list[PackProblem]:
    """Read a figure's file: its data, or everything that is wrong with it.

    folder: of the topic. file: where the figure is named, to report a problem with the name itself.
    """
    path = folder / "figures" / name
    if not (path.is_file() and path.resolve().is_relative_to(folder.resolve())):
        return [
            PackProblem(file, 1, "figure", gettext("figures/{name} is missing").format(name=name))
        ]
    own = f"{Path(file).parent}/figures/{name}"
    if path.suffix != ".yaml":
        svg = read_utf8(path, own)
        if isinstance(svg, PackProblem):
            return [svg]
        return {"svg": svg}
    located = read_yaml(path, own)
    if isinstance(located, PackProblem):
        return [located]
    model = validated(FigureFileModel, located)
    return model if isinstance(model, list) else dict(located.data)


def figure_of_page(folder: Path, file: str, name: str, alt: str) -> Figure | list[PackProblem]:
    """Read a figure for a study page, with the page's description as alt text."""
    data = figure_data(folder, name, file)
    if isinstance(data, list):
        return data
    return FigureModel.model_validate({**data, "alt": alt}).to_core()
