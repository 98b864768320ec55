/** What lies round the picture at Vet: the graph over the ladder and the table of trackers. */
package flarvo.desktop.vet;
