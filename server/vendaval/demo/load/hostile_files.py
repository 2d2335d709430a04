"""Files that ask for more than they look like, made by hand where no library would make them."""

from __future__ import annotations

import io
import struct
import zlib


def document(objects: dict[int, bytes]) -> bytes:
    """A PDF of these objects, the first its catalogue (ISO 32000-1, 7.5)."""
    out, at = io.BytesIO(b"%PDF-1.7\n"), {}
    out.seek(0, 2)
    for number, body in objects.items():
        at[number] = out.tell()
        out.write(b"%d 0 obj\n%s\nendobj\n" % (number, body))
    start = out.tell()
    out.write(b"xref\n0 %d\n0000000000 65535 f \n" % (len(objects) + 1))
    for number in objects:
        out.write(b"%010d 00000 n \n" % at[number])
    out.write(b"trailer\n<< /Size %d /Root 1 0 R >>\n" % (len(objects) + 1))
    out.write(b"startxref\n%d\n%%%%EOF" % start)
    return out.getvalue()


def stream(content: bytes, about: bytes) -> bytes:
    """A stream of a PDF, with what is said about it."""
    return b"<< /Length %d %s >>\nstream\n%s\nendstream" % (len(content), about, content)


def nested_forms(deep: int = 12, each: int = 10) -> bytes:
    """Less than 4 kB: forms that draw the next one ten times, twelve deep."""
    objects = {
        1: b"<< /Type /Catalog /Pages 2 0 R >>",
        2: b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        3: b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 4 0 R"
        b" /Resources << /XObject << /F 5 0 R >> >> >>",
        4: stream(b"/F Do", b""),
    }
    for number in range(5, 5 + deep):
        form = b"/Type /XObject /Subtype /Form /BBox [0 0 600 800]"
        if number < 4 + deep:
            form += b" /Resources << /XObject << /F %d 0 R >> >>" % (number + 1)
            objects[number] = stream(b"/F Do " * each, form)
        else:
            objects[number] = stream(b"0 0 300 400 re f " * 50, form)
    return document(objects)


def png(width: int, height: int) -> bytes:
    """A PNG of one colour with eight bits each of red, green, blue and alpha (ISO/IEC 15948)."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        crc = zlib.crc32(kind + data)
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", crc)

    rows = zlib.compress(bytes(height * (4 * width + 1)), 1)
    head = struct.pack(">IIBBBBB", width, height, 8, 6, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")
