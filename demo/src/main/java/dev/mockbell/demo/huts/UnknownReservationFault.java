package dev.mockbell.demo.huts;

import jakarta.xml.ws.WebFault;

/** The fault UnknownReservation. */
@WebFault(name = "UnknownReservation", targetNamespace = "urn:northfell:hut-booking")
public final class UnknownReservationFault extends Exception {
    private static final long serialVersionUID = 1L;

    private final transient UnknownReservation info;

    public UnknownReservationFault(String reason, UnknownReservation info) {
        super(reason);
        this.info = info;
    }

    /** The content of the fault's detail. */
    public UnknownReservation getFaultInfo() {
        return info;
    }
}
