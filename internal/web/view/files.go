// Package view holds the parts that several screens show: verdicts and counts in words, the cards of
// findings, the rail of twelve half steps, the cards of hands side by side, and the player bar with
// the sound behind it. Its templates are in this folder; what is drawn comes from draw.
package view

import "embed"

// Files are the templates of the shared parts, what they look like and the script of what sounds.
//
//go:embed soundstrip.html sheet.html shared.css sound.js sheet.js visits.js combo.js record.js recorder.js playin.js
var Files embed.FS
