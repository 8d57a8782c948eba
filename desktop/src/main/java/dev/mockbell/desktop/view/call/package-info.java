/** The station Call: a case as request, what came back, its checks. */
package dev.mockbell.desktop.view.call;
