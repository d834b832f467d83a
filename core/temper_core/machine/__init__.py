"""Circuit, layouts, equipment, what is in each vessel, bleed recipes."""
