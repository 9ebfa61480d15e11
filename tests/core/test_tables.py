"""Tables and palettes of swatches, good and bad."""

from __future__ import annotations

import time

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.errors import TableError
from paleta.media import Row, read_table, write_csv, write_gpl

CSV = "code,name,family,L,a,b,two coats\nr1,Rose 1,rose,62.5,31,-12,50 38 -14\nr2,Rose 2,rose,40,38,-10,\n"
words = st.text(st.characters(categories=["L", "N"], include_characters=" -,;'\""), min_size=1, max_size=20).map(
    str.strip
)


class TableTest(SimpleTestCase):
    def test_a_line_of_a_million_cells_is_refused_before_it_is_parted(self):
        begun = time.process_time()
        with self.assertRaisesMessage(TableError, "400 are the most"):
            read_table("code,name,hex\n" + "," * 1_490_000)
        self.assertLess(time.process_time() - begun, 2)

    def test_a_csv_with_headings_is_read(self):
        first, second = read_table(CSV)
        self.assertEqual((first.code, first.name, first.lab), ("r1", "Rose 1", (62.5, 31, -12)))
        self.assertEqual(first.two_coats, (50, 38, -14))
        self.assertEqual((second.family, second.two_coats, second.problem), ("rose", None, ""))

    def test_decimal_commas_semicolons_and_other_encodings_are_read(self):
        text = "Nr;Colour;L*;a*;b*\n1;Grün;52,5;-40,25;30\n"
        for encoding in ("utf-8", "utf-8-sig", "cp1252", "utf-16"):
            with self.subTest(encoding=encoding):
                (row,) = read_table(text.encode(encoding))
                self.assertEqual((row.name, row.lab), ("Grün", (52.5, -40.25, 30.0)))

    def test_pasted_cells_need_no_headings(self):
        rows = read_table("a1\tSky\t#87b5e0\na2\tNight\t22\t4\t-30")
        self.assertEqual(rows[0].name, "Sky")
        rows = read_table("a2\tNight\t22\t4\t-30\na3\tDusk\t40\t10\t-20")
        self.assertEqual(rows[1].lab, (40, 10, -20))

    def test_bad_rows_are_marked_and_good_ones_stay(self):
        rows = read_table(
            "code,name,L,a,b\na,Good,50,0,0\na,Again,40,0,0\nb,Too light,150,0,0\nc,Words,x,0,0\n,,1,2,3\nd,Short\n"
        )
        self.assertEqual([row.code for row in rows if not row.problem], ["a"])
        problems = " ".join(row.problem for row in rows)
        for words_ in (
            "stands in line 2",
            "L* must lie",
            "x is no number",
            "neither a code nor a name",
            "is no number",
        ):
            self.assertIn(words_, problems)

    def test_tables_that_are_none_are_refused_whole(self):
        for table, words_ in (
            ("", "empty"),
            ("  \n ", "empty"),
            (";", "empty"),
            ("code,name,L,a,b\n" + "x" * 140_000 + ",y,1,2,3\n", "far too long"),
            ("code,name,L,a,b\n", "no rows"),
            ("name,price\nx,3\n", "no column for"),
            ("L,a,b\n1,2,3\n", "no column for name or code"),
            ("just one cell", "without headings"),
            ("a,b,#000000\n" * 100_000, "20,000 are the most"),
            (b"\x81\x8d\x8f\x90\x9d", "encoding"),
        ):
            with self.subTest(words=words_), self.assertRaisesMessage(TableError, words_):
                read_table(table)

    def test_a_gpl_palette_is_read_and_written(self):
        text = "GIMP Palette\nName: Night\nColumns: 4\n#\n 20  30  80\tDeep [n1]\n255 255 255 White\n300 0 0 Wrong\nno line\n"
        rows = read_table(text)
        self.assertEqual([(row.code, row.name) for row in rows[:2]], [("n1", "Deep"), ("white", "White")])
        self.assertEqual(rows[1].lab, (100.0, 0.0, 0.0))
        self.assertEqual(len([row for row in rows if row.problem]), 2)
        again = read_table(write_gpl("Night", rows))
        self.assertEqual([row.name for row in again], ["Deep", "White"])

    @settings(max_examples=60)
    @given(st.lists(st.tuples(words, st.floats(1, 99), st.floats(-60, 60), st.floats(-60, 60)), min_size=1, max_size=8))
    def test_what_is_written_is_read_back(self, items):
        rows = [
            Row(0, f"c{k}", name or "x", (round(light, 2), round(a, 2), round(b, 2)))
            for k, (name, light, a, b) in enumerate(items)
        ]
        back = read_table(write_csv(rows))
        self.assertEqual(
            [(row.code, row.name, row.lab) for row in back], [(row.code, row.name, row.lab) for row in rows]
        )

    def test_names_that_look_like_formulas_are_written_as_text(self):
        self.assertIn("'=1+1", write_csv([Row(0, "a", "=1+1", (50, 0, 0))]))
