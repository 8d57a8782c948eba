package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** The reservation. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "GetReservationResponse")
@XmlType(
        name = "",
        propOrder = {"reservation"})
public final class GetReservationResponse {
    @XmlElement(required = true)
    public Reservation reservation;
}
