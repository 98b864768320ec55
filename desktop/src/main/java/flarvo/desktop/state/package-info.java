/**
 * The open shot and its project: decisions go in, snapshots come out. Window's thread only, but for
 * what slots and jobs are given to work on.
 */
package flarvo.desktop.state;
