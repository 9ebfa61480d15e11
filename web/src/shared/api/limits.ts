/** Made by tools/make_limits.py from the schema and the core; not to be edited. */
export const LIMITS = {
  "AddPieceRequest": {
    "title": {
      "maxLength": 120
    },
    "width_mm": {
      "minimum": 10.0,
      "maximum": 450.0
    },
    "gap_mm": {
      "minimum": 0.1,
      "maximum": 5
    }
  },
  "BodyRequest": {
    "labels": {
      "maxItems": 4000
    }
  },
  "CardFormRequest": {
    "notes": {
      "maxLength": 2000
    }
  },
  "ChartFormRequest": {
    "codes": {
      "maxItems": 200
    }
  },
  "CounterpartsRequest": {
    "codes": {
      "maxItems": 5
    }
  },
  "DrawerRequest": {
    "name": {
      "maxLength": 80
    }
  },
  "EraseRequest": {
    "label": {
      "minimum": 1,
      "maximum": 1000000
    }
  },
  "FindAgainRequest": {
    "gap_mm": {
      "minimum": 0.1,
      "maximum": 5
    },
    "sensitivity": {
      "minimum": -1,
      "maximum": 1
    }
  },
  "FinishFormRequest": {
    "touches": {
      "maxItems": 12
    },
    "notes": {
      "maxLength": 2000
    }
  },
  "GlowRequest": {
    "x_mm": {
      "minimum": 0,
      "maximum": 1000
    },
    "y_mm": {
      "minimum": 0,
      "maximum": 1000
    },
    "height_mm": {
      "minimum": 0,
      "maximum": 100
    },
    "reach_mm": {
      "minimum": 1,
      "maximum": 200
    },
    "strength": {
      "minimum": 0,
      "maximum": 5
    },
    "reserve_mm": {
      "minimum": 0,
      "maximum": 100
    }
  },
  "ImportTableRequest": {
    "text": {
      "maxLength": 3000000
    }
  },
  "JoinRequest": {
    "labels": {
      "maxItems": 4000
    }
  },
  "KeepGoToRequest": {
    "label": {
      "minimum": 1
    },
    "name": {
      "maxLength": 60
    },
    "tags": {
      "maxItems": 6
    }
  },
  "LampRequest": {
    "azimuth_deg": {
      "minimum": 0,
      "maximum": 360
    },
    "elevation_deg": {
      "minimum": 0,
      "maximum": 90
    },
    "ambient": {
      "minimum": 0,
      "maximum": 0.9
    }
  },
  "LayGoToRequest": {
    "labels": {
      "maxItems": 4000
    }
  },
  "LightFormRequest": {
    "true_to_scene": {
      "minimum": 0,
      "maximum": 1
    },
    "shade": {
      "minimum": -1,
      "maximum": 1
    },
    "follow": {
      "minimum": 0,
      "maximum": 1
    }
  },
  "MeasureRequest": {
    "code": {
      "maxLength": 40
    },
    "lab": {
      "maxItems": 3
    },
    "second": {
      "maxItems": 3
    }
  },
  "NewPasswordRequest": {
    "old": {
      "maxLength": 200
    },
    "new": {
      "maxLength": 200
    }
  },
  "PaletteFormRequest": {
    "count": {
      "minimum": 3,
      "maximum": 6
    },
    "shades": {
      "minimum": 1,
      "maximum": 5
    }
  },
  "PatchedDrawerNameRequest": {
    "name": {
      "maxLength": 80
    }
  },
  "PatchedSwatchFormRequest": {
    "code": {
      "maxLength": 40
    },
    "name": {
      "maxLength": 80
    },
    "family": {
      "maxLength": 40
    },
    "maker": {
      "maxLength": 40
    },
    "lab": {
      "maxItems": 3
    },
    "two_coats": {
      "maxItems": 3
    },
    "diluted": {
      "maxItems": 3
    },
    "light_pressure": {
      "maxItems": 3
    },
    "firm_pressure": {
      "maxItems": 3
    }
  },
  "ProposeRequest": {
    "shades": {
      "minimum": 1,
      "maximum": 5
    }
  },
  "PutBeforeRequest": {
    "nearer": {
      "minimum": 1,
      "maximum": 1000000
    },
    "farther": {
      "minimum": 1,
      "maximum": 1000000
    }
  },
  "RampFormRequest": {
    "labels": {
      "maxItems": 4000
    },
    "codes": {
      "maxItems": 5
    }
  },
  "RegionFormRequest": {
    "name": {
      "maxLength": 60
    },
    "bulge": {
      "minimum": 0.05,
      "maximum": 2
    },
    "axis_deg": {
      "minimum": 0,
      "maximum": 359.999
    },
    "depth": {
      "minimum": -99,
      "maximum": 99
    },
    "shades": {
      "minimum": 1,
      "maximum": 5
    },
    "base_mm": {
      "maxItems": 2
    },
    "turn_deg": {
      "minimum": -180,
      "maximum": 180
    },
    "labels": {
      "maxItems": 4000
    },
    "tags": {
      "maxItems": 6
    }
  },
  "RemedyRequest": {
    "regions": {
      "maxItems": 4000
    }
  },
  "RunFormRequest": {
    "minutes": {
      "minimum": 0.5,
      "maximum": 1440
    },
    "note": {
      "maxLength": 500
    }
  },
  "SchoolChoiceRequest": {
    "school": {
      "maxLength": 40
    }
  },
  "SharePaletteRequest": {
    "colours": {
      "maxItems": 6
    },
    "labels": {
      "maxItems": 4000
    }
  },
  "SignInRequest": {
    "username": {
      "maxLength": 150
    },
    "password": {
      "maxLength": 200
    }
  },
  "SplitRequest": {
    "label": {
      "minimum": 1,
      "maximum": 1000000
    },
    "line": {
      "maxItems": 200
    }
  },
  "StampFormRequest": {
    "title": {
      "maxLength": 120
    }
  },
  "SwatchFormRequest": {
    "code": {
      "maxLength": 40
    },
    "name": {
      "maxLength": 80
    },
    "family": {
      "maxLength": 40
    },
    "maker": {
      "maxLength": 40
    },
    "lab": {
      "maxItems": 3
    },
    "two_coats": {
      "maxItems": 3
    },
    "diluted": {
      "maxItems": 3
    },
    "light_pressure": {
      "maxItems": 3
    },
    "firm_pressure": {
      "maxItems": 3
    }
  },
  "glows": {
    "most": 12
  },
  "batch": {
    "copies": 200
  },
  "tags": {
    "most": 6,
    "longest": 24
  },
  "school": {
    "name": 60,
    "summary": 300,
    "how": 120,
    "steps": 12
  }
} as const;
