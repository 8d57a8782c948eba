package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** The bunks are held. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "ReserveBunksResponse")
@XmlType(
        name = "",
        propOrder = {"reservation"})
public final class ReserveBunksResponse {
    @XmlElement(required = true)
    public Reservation reservation;
}
