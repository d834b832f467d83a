"""Skarn Pass Snow & Cableway: machines, loops, products, instruments, people. All invented."""

from __future__ import annotations

from typing import Any

DEPOT = {
    "name": "Skarn Pass Snow & Cableway",
    "time_zone": "Europe/Oslo",
    "currency": "EUR",
    "altitude_m": 1120.0,
    "coldest_c": -38.0,
}

PASSWORD = "snow-and-cable"
PEOPLE = [
    ("ines", "Ines", "Halvard", "technician"),
    ("tomo", "Tomo", "Reik", "technician"),
    ("maud", "Maud", "Stellan", "lead"),
]

PRODUCTS: list[dict[str, Any]] = [
    {
        "name": "Winterline O",
        "base": "ethylene",
        "family": "oat",
        "form": "concentrate",
        "glycol_mass_percent": 95.0,
        "standards": ["ASTM D3306"],
        "container_sizes_l": [5.0, 20.0],
        "price_per_l": "6.40",
    },
    {
        "name": "Winterline O ready-mixed",
        "base": "ethylene",
        "family": "oat",
        "form": "ready_mix",
        "glycol_mass_percent": 50.0,
        "standards": ["ASTM D3306"],
        "container_sizes_l": [5.0],
        "price_per_l": "3.90",
    },
    {
        "name": "Winterline P",
        "base": "propylene",
        "family": "oat",
        "form": "concentrate",
        "glycol_mass_percent": 95.0,
        "standards": ["ASTM D3306"],
        "container_sizes_l": [5.0],
        "price_per_l": "7.80",
    },
    {
        "name": "Old Guard S",
        "base": "ethylene",
        "family": "iat",
        "form": "concentrate",
        "glycol_mass_percent": 93.0,
        "standards": ["BS 6580"],
        "container_sizes_l": [5.0, 25.0],
        "price_per_l": "4.90",
    },
    {
        "name": "Longhaul N",
        "base": "ethylene",
        "family": "noat",
        "form": "concentrate",
        "glycol_mass_percent": 94.0,
        "standards": ["ASTM D6210"],
        "container_sizes_l": [20.0],
        "price_per_l": "6.90",
    },
    {
        "name": "Stillwater E",
        "base": "ethylene",
        "family": "low_conductivity",
        "form": "ready_mix",
        "glycol_mass_percent": 50.0,
        "standards": [],
        "container_sizes_l": [5.0],
        "price_per_l": "11.20",
    },
    {
        "name": "Race Clear",
        "base": "none",
        "family": "glycol_free",
        "form": "ready_mix",
        "glycol_mass_percent": 0.0,
        "standards": [],
        "container_sizes_l": [5.0],
        "price_per_l": "2.60",
    },
]

INSTRUMENTS = [
    {"name": "Glass 3", "scale": "freeze_ethylene", "resolution": 1.0, "zero": -0.4},
    {"name": "Glass 5", "scale": "freeze_propylene", "resolution": 1.0, "zero": 0.0},
]


def node(id_: str, kind: str, name: str, volume_l: float, bottom_mm: float, top_mm: float, column: int) -> dict[str, Any]:
    """One vessel of a layout."""
    return {
        "id": id_,
        "kind": kind,
        "name": name,
        "volume_l": volume_l,
        "bottom_mm": bottom_mm,
        "top_mm": top_mm,
        "column": column,
    }


def pipe(start: str, end: str, at_mm: float, via: str = "none") -> dict[str, Any]:
    """One hose of a layout."""
    return {"start": start, "end": end, "at_mm": at_mm, "via": via}


GROOMER = {
    "nodes": [
        node("tank", "tank", "Tank", 4.0, 1790, 2060, 1),
        node("heater", "heater", "Heater", 2.4, 1440, 1770, 0),
        node("radiator", "radiator", "Radiator", 11.0, 720, 1560, 2),
        node("block", "block", "Engine block", 12.2, 560, 1170, 0),
        node("hoses", "hoses", "Hoses", 2.4, 520, 1800, 1),
    ],
    "pipes": [
        pipe("block", "radiator", 1380, "thermostat"),
        pipe("radiator", "block", 660, "pump"),
        pipe("block", "heater", 1290),
        pipe("heater", "block", 1620),
        pipe("tank", "block", 800),
    ],
    "drains": [
        {"letter": "A", "node": "radiator", "height_mm": 700, "share": {"radiator": 0.945, "tank": 1.0, "hoses": 0.5}},
        {"letter": "B", "node": "block", "height_mm": 540, "share": {"block": 0.625, "heater": 0.2, "hoses": 0.33}},
    ],
    "tank_total_l": 6.0,
}

SHUTTLE_ENGINE = {
    "nodes": [
        node("tank", "tank", "Degas tank", 1.2, 1050, 1220, 1),
        node("heater", "heater", "Heater", 0.8, 900, 1060, 0),
        node("radiator", "radiator", "Radiator", 2.9, 420, 900, 2),
        node("block", "block", "Engine block", 3.5, 380, 800, 0),
        node("hoses", "hoses", "Hoses", 1.0, 360, 1000, 1),
    ],
    "pipes": [
        pipe("block", "radiator", 840, "thermostat"),
        pipe("radiator", "block", 440, "pump"),
        pipe("block", "heater", 960, "heater_valve"),
        pipe("tank", "block", 560),
    ],
    "drains": [
        {"letter": "A", "node": "radiator", "height_mm": 410, "share": {"radiator": 0.9, "tank": 0.9, "hoses": 0.4}},
        {"letter": "B", "node": "block", "height_mm": 390, "share": {"block": 0.6, "hoses": 0.3}},
    ],
    "tank_total_l": 1.9,
}

SHUTTLE_ELECTRONICS = {
    "nodes": [
        node("tank", "tank", "Tank", 0.7, 980, 1120, 1),
        node("inverter", "electronics", "Inverter", 0.9, 700, 900, 0),
        node("battery", "electronics", "Battery plates", 1.9, 300, 520, 0),
        node("radiator", "radiator", "Low radiator", 1.2, 420, 880, 2),
        node("hoses", "hoses", "Hoses", 0.5, 280, 960, 1),
    ],
    "pipes": [
        pipe("inverter", "radiator", 840),
        pipe("radiator", "battery", 440, "pump"),
        pipe("battery", "inverter", 600),
        pipe("tank", "battery", 480),
    ],
    "drains": [
        {"letter": "C", "node": "radiator", "height_mm": 410, "share": {"radiator": 0.95, "tank": 1.0, "hoses": 0.6}}
    ],
    "tank_total_l": 1.1,
}

RAILCAR = {
    "nodes": [
        node("tank", "tank", "Header tank", 6.0, 2350, 2620, 1),
        node("heater", "heater", "Saloon heaters", 9.0, 1500, 1720, 0),
        node("radiator", "radiator", "Copper radiator", 17.0, 900, 2150, 2),
        node("block", "block", "Engine block", 21.0, 640, 1300, 0),
        node("hoses", "hoses", "Hoses", 5.0, 600, 2300, 1),
    ],
    "pipes": [
        pipe("block", "radiator", 1400, "thermostat"),
        pipe("radiator", "block", 920, "pump"),
        pipe("block", "heater", 1420, "heater_valve"),
        pipe("tank", "block", 1050),
    ],
    "drains": [
        {"letter": "A", "node": "radiator", "height_mm": 880, "share": {"radiator": 0.95, "tank": 1.0, "hoses": 0.6}},
        {"letter": "B", "node": "block", "height_mm": 650, "share": {"block": 0.7, "heater": 0.1, "hoses": 0.2}},
    ],
    "tank_total_l": 9.0,
}

SLED = {
    "nodes": [
        node("radiator", "radiator", "Tunnel cooler", 2.4, 380, 620, 2),
        node("block", "block", "Engine block", 3.1, 300, 700, 0),
        node("hoses", "hoses", "Hoses", 0.6, 300, 720, 1),
    ],
    "pipes": [pipe("block", "radiator", 660, "thermostat"), pipe("radiator", "block", 420, "pump")],
    "drains": [
        {"letter": "A", "node": "block", "height_mm": 300, "share": {"block": 0.8, "radiator": 0.9, "hoses": 0.8}},
    ],
    "tank_total_l": None,
}

MACHINES: list[dict[str, Any]] = [
    {
        "fleet_number": "G-07",
        "kind": "Piste groomer",
        "description": "Tornvik T6 diesel",
        "loops": [
            {
                "name": "Engine loop",
                "capacity_l": 32.0,
                "capacity_source": "measured",
                "layout": GROOMER,
                "maker_families": ["oat", "si_hoat"],
                "maker_stated_in": "operator's book, page 88",
                "materials": ["aluminium", "cast_iron"],
                "believed_base": "ethylene",
                "believed_family": "iat",
            }
        ],
    },
    {
        "fleet_number": "S-12",
        "kind": "Shuttle, hybrid",
        "description": "24 seats, valley line",
        "loops": [
            {
                "name": "Engine loop",
                "capacity_l": 9.4,
                "capacity_source": "manual",
                "layout": SHUTTLE_ENGINE,
                "coldest_c": -32.0,
                "maker_standards": ["ASTM D3306"],
                "maker_stated_in": "sticker under the hood",
                "materials": ["aluminium"],
                "believed_base": "ethylene",
                "believed_family": "oat",
                "believed_strength_percent": 41.0,
            },
            {
                "name": "Power electronics loop",
                "capacity_l": 5.2,
                "capacity_source": "manual",
                "layout": SHUTTLE_ELECTRONICS,
                "coldest_c": -32.0,
                "low_conductivity": True,
                "high_voltage": True,
                "materials": ["aluminium"],
                "believed_base": "ethylene",
                "believed_family": "low_conductivity",
                "believed_strength_percent": 50.0,
            },
        ],
    },
    {
        "fleet_number": "R-02",
        "kind": "Railcar",
        "description": "line set 2, old copper-brass radiator",
        "loops": [
            {
                "name": "Engine loop",
                "capacity_l": 58.0,
                "capacity_source": "remembered",
                "layout": RAILCAR,
                "coldest_c": -25.0,
                "materials": ["copper_brass_solder", "cast_iron", "old_seals"],
                "believed_base": "ethylene",
                "believed_family": "iat",
            }
        ],
    },
    {
        "fleet_number": "RS-1",
        "kind": "Race sled",
        "description": "class rules forbid glycol",
        "loops": [
            {
                "name": "Engine loop",
                "capacity_l": 6.1,
                "capacity_source": "measured",
                "layout": SLED,
                "glycol_forbidden": True,
                "materials": ["aluminium"],
                "believed_base": "none",
                "believed_family": "glycol_free",
            }
        ],
    },
]
