/**
 * What the user decided about a shot, as a list that can be undone, stored and replayed.
 *
 * <ul>
 *   <li>A {@link flarvo.decision.Decision} is what the user wants, never what came of it. Places
 *       are trackers' names or points of the levelled world, in metres.
 *   <li>An {@link flarvo.decision.Outcome} is what a decision worked out. It is kept with the
 *       identity of its input, so that opening a project computes nothing and a replay on other
 *       input does.
 *   <li>A {@link flarvo.decision.ShotState} is the sum of the decisions so far; its shots are made
 *       when somebody asks for them.
 * </ul>
 */
package flarvo.decision;
