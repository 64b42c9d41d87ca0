package epc

// A Lock says what of a tag can be written from now on.
type Lock struct {
	Kill, Access, EPC, User Locked
}

// Locked is how a part of the memory is locked.
type Locked int

// The ways to lock (EPC UHF Gen2, table 6-50).
const (
	Leave     Locked = iota // as it is
	Open                    // written from any state
	Password                // written with the access password
	OpenEver                // never locked
	LockedFor               // never written again
)

// Payload returns the twenty bits of the Lock command: ten of mask, then ten of action, for kill password, access
// password, EPC, TID and user memory (EPC UHF Gen2, figure 6-27). The TID is never changed.
func (l Lock) Payload() uint32 {
	var mask, action uint32
	for _, part := range []Locked{l.Kill, l.Access, l.EPC, Leave, l.User} {
		mask, action = mask<<2, action<<2
		if part != Leave {
			mask |= 3
			action |= uint32(part-Open)&1<<1 | uint32(part-Open)>>1&1
		}
	}
	return mask<<10 | action
}
