package symbology

// What tests of the package's outside hold against one another.
var (
	AppendCode128      = appendCode128
	AppendCode128Latin = appendCode128Latin
)
