package dev.mockbell.demo.huts;

import jakarta.xml.ws.WebFault;

/** The fault HutFull. */
@WebFault(name = "HutFull", targetNamespace = "urn:northfell:hut-booking")
public final class HutFullFault extends Exception {
    private static final long serialVersionUID = 1L;

    private final transient HutFull info;

    public HutFullFault(String reason, HutFull info) {
        super(reason);
        this.info = info;
    }

    /** The content of the fault's detail. */
    public HutFull getFaultInfo() {
        return info;
    }
}
