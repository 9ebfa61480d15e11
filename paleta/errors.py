"""The one family of errors of the core. Each is also the built-in error it resembles.

`code` is stable and machine readable (the API turns it into the `type` of a problem document); the message
is a sentence a colourist understands.
"""


class PaletaError(Exception):
    """Anything the core refuses, with a sentence for the person and a code for the program."""

    code = "refused"


class ShapeError(PaletaError, ValueError):
    """An array has the wrong shape."""

    code = "wrong_shape"


class NotAnImage(PaletaError, ValueError):
    """The data is not a picture that can be read whole."""

    code = "not_an_image"


class ImageTooLarge(PaletaError, ValueError):
    """The picture has more pixels than Paleta opens."""

    code = "image_too_large"


class ResolutionMissing(PaletaError, ValueError):
    """Neither the file nor the caller says how large the picture is on paper."""

    code = "resolution_missing"


class CornersWrong(PaletaError, ValueError):
    """Four corners do not go round a part of the picture."""

    code = "corners_wrong"


class NoRegions(PaletaError, ValueError):
    """No closed region was found in the picture."""

    code = "no_regions"


class EditError(PaletaError, ValueError):
    """A change to the regions does not fit them."""

    code = "edit_impossible"


class FadeError(PaletaError, ValueError):
    """A ground cannot fade like this."""

    code = "fade_impossible"


class LampError(PaletaError, ValueError):
    """A lamp or glow stands where none can stand."""

    code = "lamp_impossible"


class FormError(PaletaError, ValueError):
    """A body or its form is not one Paleta knows."""

    code = "form_unknown"


class DepthCycle(PaletaError, ValueError):
    """Things would stand before each other in a circle; `labels` are those on it, each before the next."""

    code = "depth_cycle"

    def __init__(self, labels: list[int]) -> None:
        self.labels = tuple(labels)
        super().__init__(
            f"Regions {', '.join(str(label) for label in labels)} would stand before each other in a circle. "
            "One of them must give way."
        )

    def __reduce__(self) -> tuple[type, tuple[list[int]]]:
        """An error comes back from another process as it was."""
        return type(self), (list(self.labels),)


class ZoningError(PaletaError, ValueError):
    """The zones of a region are not 1 to 5 shares that make a whole."""

    code = "zoning_impossible"


class SwatchError(PaletaError, ValueError):
    """A swatch or paper is not a possible colour or medium."""

    code = "swatch_impossible"


class TableError(PaletaError, ValueError):
    """A table of swatches cannot be read."""

    code = "table_unreadable"


class ChartError(PaletaError, ValueError):
    """A swatch chart cannot be laid out, or its photo cannot be read."""

    code = "chart_unreadable"


class ReaderNotReady(PaletaError, RuntimeError):
    """A colour reader has not seen its white tile."""

    code = "reader_not_ready"


class WishError(PaletaError, ValueError):
    """A wish for a ramp contradicts itself or is unknown."""

    code = "wish_impossible"


class SchoolError(PaletaError, ValueError):
    """A school of shade order is unknown or not well formed."""

    code = "school_unknown"


class PlanImpossible(PaletaError, ValueError):
    """The work handed over cannot be put in an order."""

    code = "plan_impossible"


class RecipeError(PaletaError, ValueError):
    """A recipe file is not one this version can read."""

    code = "recipe_unreadable"


class EventError(PaletaError, ValueError):
    """A line of a run's log says what no log can say."""

    code = "event_impossible"


class CardError(PaletaError, ValueError):
    """A size, a layer or a cutting job that no card can have."""

    code = "card_impossible"


class PhotoUnfit(PaletaError, ValueError):
    """A photo says nothing about the card."""

    code = "photo_unfit"


class NotThisCard(PaletaError, ValueError):
    """The photo shows no card of this recipe."""

    code = "not_this_card"
