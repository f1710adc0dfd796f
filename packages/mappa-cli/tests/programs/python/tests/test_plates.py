import hashlib
import json
import pathlib
import sys
import unittest

sys.path.insert(0, str(pathlib.Path(__file__).resolve().parent.parent))

import plates


class PlatesTest(unittest.TestCase):
    def test_report(self):
        text = json.dumps(plates.report(), sort_keys=True)
        self.assertEqual(hashlib.sha256(text.encode()).hexdigest()[:16], "532bde09346b53b0")

    def test_types(self):
        self.assertIsInstance(plates.Store().port, int)
        self.assertIsInstance(plates.Store.token, bytes)


if __name__ == "__main__":
    unittest.main()
