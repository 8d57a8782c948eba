package dev.mockbell.xml;

/**
 * What a reader accepts before it gives up with a clear error.
 *
 * @param depth greatest nesting of elements
 * @param entityExpansions greatest number of internal entities that are expanded
 * @param bytes greatest size of one document
 * @param doctype whether a document type declaration is read (its external part never is)
 */
public record XmlLimits(int depth, int entityExpansions, long bytes, boolean doctype) {
    /** For WSDL and schema documents: an internal subset is read, tightly. */
    public static final XmlLimits CONTRACT = new XmlLimits(1_000, 2_000, 64L << 20, true);
    /** A tree takes nine times the bytes of its text, and there may be two of one message, and what is laid out of it. */
    private static final int MEMORY = 30;

    /**
     * For SOAP messages: a document type declaration is refused (SOAP 1.1 §3, SOAP 1.2 part 1 §5), and so is what would not
     * fit into the memory of this process as a tree.
     */
    public static final XmlLimits MESSAGE =
            new XmlLimits(5_000, 0, Math.min(512L << 20, Runtime.getRuntime().maxMemory() / MEMORY), false);
}
