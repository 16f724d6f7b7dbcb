// Written by scripts/terms from core; do not edit.

/** Letters of each insulation colour, as on drawings. */
export const letters = {"bare":"bare","black":"BK","blue":"BU","brown":"BN","green":"GN","green-yellow":"GNYE","grey":"GY","orange":"OG","purple":"VT","red":"RD","white":"WH","yellow":"YE"} as const;

/** How each colour of insulation is drawn. */
export const insulations = {"bare":{"tint":"#c9955c","second":"#5c4322","dash":[1.5,3.5]},"black":{"tint":"#26282b"},"blue":{"tint":"#2f6fc4"},"brown":{"tint":"#8a5a34"},"green":{"tint":"#2f8f4e"},"green-yellow":{"tint":"#3f9f4a","second":"#f0cf3a","dash":[7,7]},"grey":{"tint":"#9aa0a6"},"orange":{"tint":"#e2842c"},"purple":{"tint":"#8450a8"},"red":{"tint":"#c8322b"},"white":{"tint":"#ffffff"},"yellow":{"tint":"#f0cf3a"}} as const;

/** Units of gauges as circuits write them, and as people do. */
export const gaugeUnits = {"AWG":" AWG","mm2":" mm²"} as const;

/** Instruments, the safest first. */
export const instruments = [["continuity","continuity"],["non-contact","non-contact probe"],["two-pole","two-pole tester"],["multimeter","multimeter, volts"],["lamp","look at the light"]] as const;

/** How many ends each is put to. */
export const probes = {"continuity":2,"lamp":0,"multimeter":2,"non-contact":1,"two-pole":2} as const;

/** What each instrument shows that gives no number, with how a person says it. */
export const readings = {"continuity":[["closed","it beeps"],["open","no beep"]],"lamp":[["lit","it is lit"],["dark","it is dark"]],"non-contact":[["live","it sounds"],["quiet","it stays silent"]]} as const;

/** How the power must be for those that tell something one way only. */
export const powers = {"continuity":"off","lamp":"on","non-contact":"on"} as const;

/** Ways of testing that a person may not have. */
export const inabilities = [["lamp-out","The lamp cannot come out"],["ladder","No ladder to the light"],["second-person","No helper and no long lead"],["live","No work with the power on"]] as const;

/** What a customer may say of one switch. */
export const switchReports = [["works","works, however the others stand"],["does-nothing","does nothing"],["sometimes","works only while the others stand one way"]] as const;

/** The practitioners' ways of tracing. */
export const conventions = [["A","both commons lifted"],["B","all left connected"],["E","everything lifted"]] as const;

/** What a conductor may be marked as. */
export const markRoles = ["line","load","traveler","neutral","signal"] as const;

/** Cubic centimetres in a cubic inch. */
export const cubicInch = 16.387 as const;

/** Millimetres in an inch. */
export const inch = 25.4 as const;

/** The wiring practices. */
export const practiceIds = ["na","uk","au","in","eu"] as const;

/** Boxes that are added empty. */
export const emptyBoxes = [["switch","Empty switch box"],["fixture","Empty box of a light"],["junction","Empty junction box"]] as const;

/** Numbers of a device model. */
export const quantities = [["price","Price, in units"],["standbyWatts","Standby, W"],["depthMm","Depth, mm"],["volumeCm3","Volume, cm³"],["stripMm","Stripping length, mm"],["minimumWatts","Minimum load, W"]] as const;

/** What a device model can do or not. */
export const abilities = [["dims","Dims"],["dimsFromCompanions","Companions dim too"],["scenes","Scenes by taps"],["held","Tells when it is held"],["upIsOn","Up is on"],["local","Works without the internet"]] as const;

/** Kinds of load for which a device model names a limit. */
export const limitedLoads = ["led","incandescent","magnetic","electronic","motor"] as const;
