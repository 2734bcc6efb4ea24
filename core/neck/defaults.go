package neck

import "ornamen/core/defaults"

// Defaults lists what the model assumes of a guitar.
func Defaults() []defaults.Row {
	g := Standard()
	rows := []defaults.Row{
		{Name: "scale length", Value: float64(g.Scale), Unit: "mm"},
		{Name: "frets", Value: float64(g.Frets)},
		{Name: "string spread at the nut", Value: float64(g.NutSpread), Unit: "mm"},
		{Name: "string spread at the bridge", Value: float64(g.BridgeSpread), Unit: "mm"},
		{Name: "outer strings to the edge", Value: float64(g.EdgeRoom), Unit: "mm"},
		{Name: "a fingertip presses behind the wire by", Value: float64(pressBehind), Unit: "mm"},
		{Name: "… or by this part of a narrower cell", Value: float64(pressPart)},
		{Name: "density of steel", Value: steelDensity, Unit: "kg/m³", From: defaults.Handbook},
		{Name: "Young's modulus of steel", Value: steelModulus / 1e9, Unit: "GPa", From: defaults.Handbook},
		{Name: "core of a wound string, part of its gauge", Value: woundCore},
		{Name: "mass of a wound string, part of a solid one", Value: woundMass},
	}
	for _, x := range instruments {
		for _, r := range []defaults.Row{{Name: "scale length", Value: float64(x.scale), Unit: "mm"},
			{Name: "frets", Value: float64(x.frets)}, {Name: "spread at the nut", Value: float64(x.nut), Unit: "mm"},
			{Name: "spread at the bridge", Value: float64(x.bridge), Unit: "mm"}} {
			r.Name = x.name + ": " + r.Name
			rows = append(rows, r)
		}
	}
	return defaults.Ours(rows...)
}
