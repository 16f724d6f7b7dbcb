package trace

import "ambivia/core/circuit"

// Term is something that a person chooses by name, with what is said of it.
type Term struct{ ID, Text string }

// Instruments are those that tests are made with, by their names in circuits, the safest first.
var Instruments = []Term{
	{circuit.Continuity, "continuity"},
	{circuit.NonContact, "non-contact probe"},
	{circuit.TwoPole, "two-pole tester"},
	{circuit.Multimeter, "multimeter, volts"},
	{circuit.LampLook, "look at the light"},
}

// Powers says for instruments that tell something with the power one way only which way that is.
var Powers = map[string]string{circuit.Continuity: "off", circuit.NonContact: "on", circuit.LampLook: "on"}

// Inabilities are the ways of testing that a person may not have.
var Inabilities = []Term{
	{circuit.CannotLampOut, "The lamp cannot come out"},
	{circuit.CannotLadder, "No ladder to the light"},
	{circuit.CannotSecondPerson, "No helper and no long lead"},
	{circuit.CannotLive, "No work with the power on"},
}

// SwitchReports are what a customer may say of one switch.
var SwitchReports = []Term{
	{circuit.SaysWorks, "works, however the others stand"},
	{circuit.SaysNothing, "does nothing"},
	{circuit.SaysSometimes, "works only while the others stand one way"},
}

// Conventions are the practitioners' ways of tracing beside the proposed one, by their letters.
var Conventions = []Term{
	{"A", "both commons lifted"}, {"B", "all left connected"}, {"E", "everything lifted"},
}
