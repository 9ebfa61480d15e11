class CacheTest(TestCase):
    def test_kept_results_are_read_again_and_the_least_used_go(self):
        with tempfile.TemporaryDirectory() as folder, self.settings(CACHE_ROOT=folder):
            made = []
            cache = DiskCache("test", 10)
            for number in [*range(14), 0]:
                cache.get(str(number), lambda number=number: made.append(number) or str(number).encode())
            self.assertEqual(cache.get("13", lambda: b"new"), b"13")
            self.assertLessEqual(len(list((Path(folder) / "test").iterdir())), 11)
            self.assertEqual(made[-1], 0)

    def test_a_relief_comes_back_from_its_file_good_for_the_same_light(self):
        found = region_map(disc(200, 80))
        for form in ("dome", "hollow", "flat"):
            relief = model_forms(found, [Body((1,), form=form)])
            lamp = Lamp(azimuth_deg=70, elevation_deg=30)
            again = relief_from_bytes(relief_to_bytes(relief))
            with self.subTest(form=form):
                np.testing.assert_allclose(illuminate(again, lamp), illuminate(relief, lamp), atol=0.01)
                np.testing.assert_allclose(again.height, relief.height, rtol=1e-3, atol=1e-3)
