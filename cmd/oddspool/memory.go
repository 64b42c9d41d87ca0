package main

import (
	"bufio"
	"fmt"
	"os"
	"runtime/debug"
	"strings"
	"syscall"
)

// useLittleMemory keeps the memory of a command that makes many labels flat. Little lives on from one label to the
// next, so that collecting often costs next to nothing.
func useLittleMemory() {
	debug.SetGCPercent(33)
	releaseProgram()
}

// releaseProgram gives the pages of the program's own file back to the kernel. By the time main begins, the kernel has
// mapped nearly all of it, some 50 MB; what is needed again comes back from the page cache. Only pages that cannot be
// written are given back. Where the kernel says no, they stay.
func releaseProgram() {
	program, err := os.Readlink("/proc/self/exe")
	if err != nil {
		return
	}
	maps, err := os.Open("/proc/self/maps")
	if err != nil {
		return
	}
	defer func() { _ = maps.Close() }() // it was only read
	for lines := bufio.NewScanner(maps); lines.Scan(); {
		var from, to uintptr
		var rights string
		if _, err := fmt.Sscanf(lines.Text(), "%x-%x %s", &from, &to, &rights); err != nil {
			return
		}
		if !strings.Contains(rights, "w") && strings.HasSuffix(lines.Text(), program) {
			_, _, _ = syscall.Syscall(syscall.SYS_MADVISE, from, to-from, syscall.MADV_DONTNEED)
		}
	}
}
