/** HAR 1.2, the format in which HTTP traffic is handed from tool to tool. In: exchanges or a file; out: a file or exchanges. */
package dev.mockbell.har;
