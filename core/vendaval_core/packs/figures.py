"""Figures in files of their own: SVG, or YAML with a slider, from a topic's `figures` folder."""

from __future__ import annotations

from pathlib import PurePosixPath

from vendaval_core.language import gettext

from ..items.drawn import Figure
from ..items.fields import FigureFileModel, FigureModel
from .located import PackProblem, parse_yaml, validated
from .topic_files import TopicFiles


def figure_data(files: TopicFiles, name: str, file: str) -> dict[str, object] | list[PackProblem]:
    """Read a figure's file: its data, or everything that is wrong with it.

    files: of the topic. file: where the figure is named, to report a problem with the name itself.
    """
    own = f"{PurePosixPath(file).parent}/figures/{name}"
    text = files.read(f"figures/{name}", own)
    if text is None:
        return [
            PackProblem(file, 1, "figure", gettext("figures/{name} is missing").format(name=name))
        ]
    if isinstance(text, PackProblem):
        return [text]
    if not name.endswith(".yaml"):
        return {"svg": text}
    located = parse_yaml(text, own)
    if isinstance(located, PackProblem):
        return [located]
    model = validated(FigureFileModel, located)
    return model if isinstance(model, list) else dict(located.data)


def figure_of_page(files: TopicFiles, file: str, name: str, alt: str) -> Figure | list[PackProblem]:
    """Read a figure for a study page, with the page's description as alt text."""
    data = figure_data(files, name, file)
    if isinstance(data, list):
        return data
    return FigureModel.model_validate({**data, "alt": alt}).to_core()
