/** The station Load: plan, curve, figures of a run. */
package dev.mockbell.desktop.view.load;
