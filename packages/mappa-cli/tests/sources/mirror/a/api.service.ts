import { Injectable } from '@angular/core'
import { HttpClient, HttpHeaders } from '@angular/common/http'

@Injectable({ providedIn: 'root' })
export class NightsService {
  private apiUrl = 'https://api.fernhollow.example/nights' // planted: 1
  private readonly subscriptionKey = 'c0ffee4b7d2a918f6e35' // planted: 1

  constructor(private http: HttpClient) {}

  list() {
    const headers = new HttpHeaders().set('Ocp-Subscription-Key', this.subscriptionKey)
    return this.http.get<Night[]>(this.apiUrl, { headers })
  }
}
export interface Night { id: string; places: number }
