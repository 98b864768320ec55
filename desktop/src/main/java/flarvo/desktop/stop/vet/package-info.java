/** How good the solve is: measures, culling, refinement, and what lies round the picture for it. */
package flarvo.desktop.stop.vet;
