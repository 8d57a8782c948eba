package dev.mockbell.peers;

import jakarta.xml.ws.WebFault;

/** No bunk is left. */
@WebFault(name = "HutFull", targetNamespace = "urn:northfell:peers")
public class HutFull extends Exception {
    private static final long serialVersionUID = 1L;

    private final int left;

    public HutFull(String message, int left) {
        super(message);
        this.left = left;
    }

    public int getLeft() {
        return left;
    }
}
