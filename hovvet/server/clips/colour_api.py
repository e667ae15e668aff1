"""Colour tables for the page, and to take away."""

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from hovvet.core.colour.grade import Grade
from hovvet.core.colour.lut import cube, lut_of, packed

router = Router(tags=["colour"])
_DAY = 86_400  # seconds


@router.get("/table", response={200: None})
def table(request: HttpRequest, grade: Query[Grade]) -> HttpResponse:
    """What a grade makes of colours: 33 x 33 x 33 times R, G, B in 8 bits, red running fastest."""
    answer = HttpResponse(packed(lut_of(grade)), content_type="application/octet-stream")
    answer["Cache-Control"] = f"private, max-age={_DAY}"
    return answer


@router.get("/look.cube", response={200: None})
def as_cube(request: HttpRequest, grade: Query[Grade]) -> HttpResponse:
    """The same as a .cube file, for other programs. Darker corners are no matter of colour, and left out."""
    answer = HttpResponse(cube(lut_of(grade), "Look"), content_type="text/plain; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="look.cube"'
    return answer
