package server

import (
	"oddspool/core/refusal"
)

// What this package refuses, in words.
var (
	tooManyTries = refusal.Define("session.too-many-tries", refusal.Often,
		"There were too many wrong tries to sign in. Try again in {seconds} s.")
	wentWrong = refusal.Define("server.failed", refusal.Failed,
		"Something went wrong in the server. Nothing that was kept is lost; try again.")
	diskFull = refusal.Define("server.disk-full", refusal.Full, "The disk is full on which the database or its server "+
		"keeps data. Nothing that was kept is lost; make room there, then do this again.")
	notKept = refusal.Define("server.not-kept", refusal.Invalid, "A number or a text in this request is not one that "+
		"can be kept. See that all are of a usual size.")
	notThere        = refusal.Define("server.not-there", refusal.Invalid, "{what}")
	notUnderstood   = refusal.Define("request.not-understood", refusal.Broken, "The request is not understood: {why}.")
	outOfBounds     = refusal.Define("request.out-of-bounds", refusal.Broken, "{why}")
	nameNeeded      = refusal.Define("request.no-name", refusal.Broken, "A name is needed.")
	otherType       = refusal.Define("request.other-type", refusal.Broken, "This takes {types}.")
	requestNotWhole = refusal.Define("request.not-whole", refusal.Broken,
		"The request did not come in whole, or too slowly. Send it again.")
	noAddress   = refusal.Define("request.no-address", refusal.Missing, "There is nothing at this address.")
	notDoneHere = refusal.Define("request.not-done-here", refusal.Broken, "This cannot be done here.")
	otherHost   = refusal.Define("request.other-host", refusal.Broken, "Odd Spool is not reached by this name here.")
	notSignedIn = refusal.Define("session.none", refusal.Denied,
		"You are not signed in, or were away for long. Sign in again; drafts are kept.")
)
